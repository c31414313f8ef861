import { Part } from "../sheet/Sheet";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { TypedIn } from "../ui/TypedIn";
import { fixed } from "../units";
import { useSetQuiet, useSetRoom, type Supplied } from "./useSupply";

/** Noise is how loud what runs together is at the bench, the door and the walls somebody lives behind. */
export function Noise({ room, area, revision }: { room: Supplied; area: string; revision: number }) {
  const set = useSetRoom(area);
  const quiet = useSetQuiet();
  const [from, to] = room.quiet;
  return (
    <>
      <Part title="Noise, an estimate">
        <ul className="m-0 list-none p-0" data-testid="heard">
          {room.heard.slice(0, 10).map((h, i) => (
            <li key={i} className="flex justify-between gap-3 border-b border-line py-0.5">
              <span>
                {h.set} <span className="text-quiet">at {h.name}</span>
              </span>
              <span className="shrink-0 tabular-nums">
                {fixed(h.db, 0)} dB(A)
                {h.hours < 24 && `, ${h.hours >= 1 ? `${fixed(h.hours, 0)} h` : `${fixed(h.hours * 60, 0)} min`} a day`}
              </span>
            </li>
          ))}
        </ul>
        <p className="m-0 mt-1 text-small text-quiet">
          The time is how long ears bear it in a day without protection, by half of it for each 3 dB over 85.
        </p>
      </Part>
      <Part title="Who hears it, and the damp">
        {room.said.walls.map((w) => (
          <div key={w.id} className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-line py-0.5">
            <span className="w-16">wall {w.id}</span>
            <Pick
              label={`Beyond wall ${w.id}`}
              value={w.beyond}
              choices={[
                { value: "", name: "nobody lives beyond it" },
                { value: "neighbour", name: "a neighbour lives beyond it" },
                { value: "bedroom", name: "somebody sleeps beyond it" },
              ]}
              onPick={(beyond) => set.mutate({ base: revision, body: { walls: [{ ...w, beyond: beyond as typeof w.beyond }] } })}
            />
            <Tickbox
              on={w.damp}
              disabled={set.isPending}
              onChange={(damp) => set.mutate({ base: revision, body: { walls: [{ ...w, damp }] } })}
            >
              damp
            </Tickbox>
          </div>
        ))}
        <div className="flex flex-wrap items-baseline gap-x-3 pt-1">
          <Labelled label="quiet from" width="w-40">
            <TypedIn
              key={from}
              value={from ?? ""}
              why={quiet.error?.message}
              onDone={(text) =>
                text !== "" && (to ?? "") !== ""
                  ? quiet.mutate({ base: revision, from: text, to: to ?? "" })
                  : text === ""
                    ? quiet.mutate({ base: revision, from: "", to: "" })
                    : quiet.mutate({ base: revision, from: text, to: "08:00" })
              }
              onTyped={quiet.reset}
              className="w-full border-b border-line"
            />
          </Labelled>
          {(from ?? "") !== "" && (
            <Labelled label="to" width="w-32">
              <TypedIn
                key={to}
                value={to ?? ""}
                onDone={(text) => quiet.mutate({ base: revision, from: from ?? "", to: text })}
                onTyped={quiet.reset}
                className="w-full border-b border-line"
              />
            </Labelled>
          )}
          <span className="text-small text-quiet">as 20:00</span>
        </div>
      </Part>
    </>
  );
}
