import { Part } from "../sheet/Sheet";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { TypedIn } from "../ui/TypedIn";
import { typedLength, type Units } from "../units";
import { Controls } from "./Controls";
import { Sites } from "./Sites";
import { useSetSupply, type Supplied } from "./useSupply";

/** Machine is what is said of one machine: its cord, its air, its noise, its controls; and where it would stand best. */
export function Machine({
  station: s,
  room,
  units,
  revision,
}: {
  station: Supplied["stations"][number];
  room: Supplied;
  units: Units;
  revision: number;
}) {
  const set = useSetSupply();
  const gives = ["extractor", "cyclone", "shop-vacuum"].includes(s.kind);
  const typed = (field: "cord" | "lead" | "hose" | "arm" | "mat_w" | "mat_d", label: string, value: number | undefined) => (
    <Labelled label={label} width="w-40">
      <TypedIn
        key={value ?? 0}
        value={value ? typedLength(value, units) : ""}
        why={set.error?.message}
        onDone={(text) => set.mutate({ base: revision, id: s.id, body: { typed: { [field]: text } } })}
        onTyped={set.reset}
        className="w-full border-b border-line"
      />
    </Labelled>
  );
  const number = (field: "amps" | "flow" | "db", label: string, after: string, value: number | undefined) => (
    <Labelled label={label} after={after} width="w-48">
      <TypedIn
        key={value ?? 0}
        value={value ? String(value) : ""}
        onDone={(text) => {
          const v = Number(text.replace(",", "."));
          if (v >= 0) set.mutate({ base: revision, id: s.id, body: { [field]: v } });
        }}
        onTyped={set.reset}
        className="w-full border-b border-line text-right"
      />
    </Labelled>
  );
  return (
    <Part title={s.name}>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1.5" data-testid="machine">
        {number("amps", "draws", "A", s.amps)}
        {typed("cord", "cord", s.cord)}
        {typed("lead", "lead laid to it", s.lead)}
        {number("flow", gives || s.kind === "air-cleaner" ? "moves" : "wants", "m³/h", s.flow)}
        {(gives || s.kind === "compressor") && typed("hose", "hose", s.hose)}
        {(gives || s.kind === "compressor") && typed("arm", "arm that carries it", s.arm)}
        {number("db", "noise", "dB(A)", s.db)}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-1">
        <Tickbox
          on={s.boxed ?? false}
          disabled={set.isPending}
          onChange={(boxed) => set.mutate({ base: revision, id: s.id, body: { boxed } })}
        >
          in a vented box
        </Tickbox>
        {(["air", "water", "network"] as const).map((w) => (
          <Tickbox
            key={w}
            on={(s.wants ?? []).includes(w)}
            disabled={set.isPending}
            onChange={(on) =>
              set.mutate({
                base: revision,
                id: s.id,
                body: { wants: on ? [...(s.wants ?? []), w] : (s.wants ?? []).filter((x) => x !== w) },
              })
            }
          >
            wants {w === "air" ? "compressed air" : w}
          </Tickbox>
        ))}
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1.5">
        <span className="flex items-baseline gap-1">
          here the air is
          <Pick
            label="What is done here to the air"
            value={s.air ?? ""}
            choices={[
              { value: "", name: "as is usual for its kind" },
              { value: "dusty", name: "made dusty" },
              { value: "clean", name: "to be clean" },
              { value: "fumes", name: "full of fumes" },
            ]}
            onPick={(air) => set.mutate({ base: revision, id: s.id, body: { air: air as "" | "dusty" | "clean" | "fumes" } })}
          />
        </span>
        {typed("mat_w", "mat, wide", s.mat?.[0])}
        {typed("mat_d", "mat, deep", s.mat?.[1])}
        <Labelled label="stands there since" width="w-64">
          <TypedIn
            key={s.placed ?? ""}
            value={s.placed ?? ""}
            onDone={(placed) => set.mutate({ base: revision, id: s.id, body: { placed } })}
            onTyped={set.reset}
            className="w-full border-b border-line"
          />
        </Labelled>
        <span className="flex items-baseline gap-1">
          is to see
          <Pick
            label="What is to be seen from here"
            value={(s.sees ?? [])[0] ?? ""}
            choices={[
              { value: "", name: "nothing in particular" },
              ...room.stations.filter((o) => o.id !== s.id).map((o) => ({ value: o.id, name: o.name })),
            ]}
            onPick={(id) => set.mutate({ base: revision, id: s.id, body: { sees: id === "" ? [] : [id] } })}
          />
        </span>
      </div>
      <Controls station={s} units={units} revision={revision} />
      <Sites station={s} units={units} revision={revision} mode={room.mode} />
      <div className="text-small">
        {room.cautions
          .filter((c) => c.on === s.id)
          .map((c, i) => (
            <p key={i} className="m-0 mt-1 text-small text-red first-letter:uppercase">
              {c.says}. <span className="text-quiet">{c.do.charAt(0).toUpperCase() + c.do.slice(1)}.</span>
            </p>
          ))}
      </div>
    </Part>
  );
}
