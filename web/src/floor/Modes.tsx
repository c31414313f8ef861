import { Labelled } from "../ui/Labelled";
import { useState } from "react";
import { api, onto, unwrap, type FloorLayout } from "../api/client";
import { useChange } from "../app/shop";
import { Button } from "../ui/Button";
import { TypedIn } from "../ui/TypedIn";
import { fixed, metres, type Units } from "../units";
import { scaled } from "./scale";

const small = { w: 104, h: 62 };

/** Little is an arrangement as large as a stamp. */
function Little({ layout, corners }: { layout: FloorLayout; corners: readonly (readonly number[])[] }) {
  const { points } = scaled(corners, small, 2);
  return (
    <svg width={small.w} height={small.h} aria-hidden>
      <polygon points={points(corners)} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1} />
      {layout.shapes
        .filter((s) => s.state === "stands" || s.state === "folded")
        .map((s) => (
          <polygon
            key={s.id}
            points={points(s.corners)}
            fill={s.own ? "var(--blue)" : s.kind === "station" ? "var(--wood-dark)" : "var(--steel)"}
            stroke="var(--quiet)"
            strokeWidth={0.5}
          />
        ))}
    </svg>
  );
}

const count = (n: number, one: string, many: string) => (n === 1 ? `1 ${one}` : `${n} ${many}`);

/** state of an arrangement in a few words. */
function inShort(l: FloorLayout): { text: string; bad: boolean } {
  const hard = l.breaches.filter((b) => b.hard).length;
  if (hard > 0) return { text: count(hard, "clash", "clashes"), bad: true };
  if (l.breaches.length > 0) return { text: `${l.breaches.length} to mind`, bad: false };
  return { text: "clear", bad: false };
}

/** Modes is the row of arrangements of the floor: one is looked at, one is how the floor is now. */
export function Modes({
  layouts,
  corners,
  mode,
  now,
  revision,
  onPick,
}: {
  layouts: readonly FloorLayout[];
  corners: readonly (readonly number[])[];
  mode: string;
  now: string;
  revision: number;
  onPick: (mode: string) => void;
}) {
  return (
    <div
      className="round-scroll flex shrink-0 items-stretch gap-2 overflow-x-auto pb-1"
      role="group"
      aria-label="Arrangements of the floor"
      data-testid="modes"
    >
      {layouts.map((l) => {
        const on = l.mode === mode;
        const short = inShort(l);
        return (
          <button
            key={l.mode}
            data-mode={l.mode}
            aria-pressed={on}
            onClick={() => onPick(l.mode)}
            className={`flex shrink-0 flex-col border-b-2 px-1 pt-1 text-left text-small ${on ? "border-blue bg-sheet" : "border-transparent hover:bg-sheet"}`}
          >
            <Little layout={l} corners={corners} />
            <span className={`max-w-26 truncate ${on ? "font-bold" : ""}`}>{l.mode === "" ? "As it stands" : l.name}</span>
            <span className={`narrow ${short.bad ? "font-semibold text-red" : "text-quiet"}`}>
              {l.mode === now ? "now, " : ""}
              {short.text}
            </span>
          </button>
        );
      })}
      <NewMode like={mode} name={layouts.find((l) => l.mode === mode)?.name ?? ""} revision={revision} />
    </div>
  );
}

/** NewMode keeps how things stand, or a copy of the arrangement that is looked at. */
function NewMode({ like, name: from, revision }: { like: string; name: string; revision: number }) {
  const [name, setName] = useState("");
  const keep = useChange(
    async (v: { base: number; name: string; like: string }) =>
      unwrap(await api.POST("/api/v1/modes", { headers: onto(v.base), body: { name: v.name, ...(v.like !== "" && { like: v.like }) } })),
    (r) => `${r.what}.`,
  );
  return (
    <form
      className="flex w-40 shrink-0 flex-col justify-end gap-1 border border-dashed border-line px-2 py-1 text-small"
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate({ base: revision, name, like }, { onSuccess: () => setName("") });
      }}
    >
      <span className="text-quiet">{like === "" ? "Keep how it stands as" : `Copy ${from} as`}</span>
      <input
        aria-label="Name of this arrangement"
        placeholder="boat in, gluing up …"
        value={name}
        onChange={(e) => setName(e.target.value)}
        className="min-w-0 border-b border-line bg-transparent py-0.5 placeholder:text-quiet"
      />
      <button
        type="submit"
        disabled={name.trim() === ""}
        className="self-start font-semibold text-blue hover:underline disabled:opacity-60"
      >
        Keep it
      </button>
    </form>
  );
}

/** About is the arrangement that is looked at: its hours, what is free, what breaks a rule in it. */
export function About({
  layout,
  now,
  revision,
  units,
  onGone,
}: {
  layout: FloorLayout;
  now: string;
  revision: number;
  units: Units;
  onGone: () => void;
}) {
  const change = useChange(
    async (v: { base: number; body: { name?: string; hours?: number; now?: boolean } }) =>
      unwrap(
        await api.PATCH("/api/v1/modes/{id}", {
          params: { path: { id: layout.mode === "" ? "-" : layout.mode } },
          headers: onto(v.base),
          body: v.body,
        }),
      ),
    (r) => `${r.what}.`,
  );
  const forget = useChange(
    async (v: { base: number }) =>
      unwrap(await api.DELETE("/api/v1/modes/{id}", { params: { path: { id: layout.mode } }, headers: onto(v.base) })),
    (r) => `${r.what}.`,
  );
  const o = layout.open;
  const narrowest = layout.ways.reduce<FloorLayout["ways"][number] | undefined>(
    (a, w) => (w.wide > 0 && (!a || w.wide < a.wide) ? w : a),
    undefined,
  );
  return (
    <div className="text-small" data-testid="about-mode">
      <div className="flex flex-wrap items-baseline gap-x-3">
        {layout.mode !== "" && (
          <>
            <Labelled label="called" width="w-40">
              <TypedIn
                key={layout.name}
                value={layout.name}
                onDone={(name) => change.mutate({ base: revision, body: { name } })}
                onTyped={change.reset}
                className="border-b border-line"
              />
            </Labelled>
            <Labelled after="h a week">
              <TypedIn
                key={layout.hours}
                value={layout.hours ? fixed(layout.hours, 1) : ""}
                onDone={(text) => {
                  const hours = Number(text.replace(",", ".") || 0);
                  if (Number.isFinite(hours)) change.mutate({ base: revision, body: { hours } });
                }}
                onTyped={change.reset}
                className="border-b border-line text-right"
              />
            </Labelled>
          </>
        )}
        {layout.mode === now ? (
          <span className="text-quiet">The floor is like this now.</span>
        ) : (
          <Button onClick={() => change.mutate({ base: revision, body: { now: true } })}>It is like this now</Button>
        )}
        {layout.mode !== "" && (
          <Button onClick={() => forget.mutate({ base: revision }, { onSuccess: onGone })}>{`Remove ${layout.name}`}</Button>
        )}
      </div>
      <p className="m-0">
        {o.w > 0 &&
          `Free floor ${metres(o.w / 1000, units)} × ${metres(o.d / 1000, units)}; ${
            o.project_w > 0
              ? `a project up to ${metres(o.project_w / 1000, units)} × ${metres(o.project_d / 1000, units)}${o.high > 0 ? ` and ${metres(o.high / 1000, units)} high` : ""} with room to walk round it. `
              : "no room to walk round a project. "
          }`}
        {narrowest &&
          narrowest.wide < 1100 &&
          `Narrowest way ${metres(narrowest.wide / 1000, units)}, between ${narrowest.between.join(" and ")}. `}
        {`Tops to work on ${fixed(layout.surfaces, 1)} m².`}
      </p>
      {layout.breaches.length > 0 && (
        <details open={layout.breaches.some((b) => b.hard)}>
          <summary className="cursor-pointer font-semibold thumb:min-h-11">
            {count(layout.breaches.length, "thing", "things")} to mind in this arrangement
          </summary>
          <ul
            className="round-scroll m-0 max-h-27.5 list-none overflow-y-auto p-0"
            tabIndex={0}
            aria-label="What to mind in this arrangement"
          >
            {layout.breaches.map((b, i) => (
              <li key={i} className={b.hard ? "text-red" : ""}>
                {b.hard && <b>Clash: </b>}
                {b.says}
                {b.do !== "" && <span className={b.hard ? "" : "text-quiet"}>; {b.do}</span>}.
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
