import { Part } from "../sheet/Sheet";
import { Pick } from "../ui/Pick";
import { distance, fixed, length, squares, type Units } from "../units";
import { cell, head } from "./cells";
import { useSetRoom, type Supplied } from "./useSupply";

const ways = { hose: "One hose, carried about", vacuums: "A vacuum each", ducts: "Fixed ducts" } as const;

/** Dust is how extraction gets to the machines, and what becomes of the air. */
export function Dust({
  room,
  area,
  units,
  revision,
  onChoose,
}: {
  room: Supplied;
  area: string;
  units: Units;
  revision: number;
  onChoose: (id: string) => void;
}) {
  const set = useSetRoom(area);
  return (
    <>
      <Part title="Extraction, what makes most of it first">
        {room.runs.length === 0 && <p className="m-0 text-quiet">No machine here makes dust, as far as is known.</p>}
        {room.runs.length > 0 && (
          <table className="w-full border-collapse" data-testid="runs">
            <thead>
              <tr>
                <th className={head + " pl-0! text-left!"}>machine</th>
                <th className={head}>wants m³/h</th>
                <th className={head + " text-left!"}>from</th>
                <th className={head}>hose</th>
                <th className={head}>bends</th>
                <th className={head}>loss</th>
              </tr>
            </thead>
            <tbody>
              {room.runs.map((x) => (
                <tr key={x.station}>
                  <td className="border-b border-line py-1">
                    <button type="button" className="text-left hover:text-blue" onClick={() => onChoose(x.station)}>
                      {x.name}
                    </button>
                  </td>
                  <td className={cell + (x.stated ? "" : " text-quiet italic")}>{fixed(x.wants, 0)}</td>
                  <td className={cell + " text-left!"}>{x.by || "nothing"}</td>
                  <td className={cell}>{x.long > 0 ? distance(x.long, units) : "—"}</td>
                  <td className={cell}>{x.long > 0 ? x.bends : "—"}</td>
                  <td className={cell}>{x.long > 0 ? `${fixed(x.loss, 0)} Pa` : "—"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Part>
      {room.ways.length > 0 && (
        <Part title="Ways to get it there">
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={head + " pl-0! text-left!"}></th>
                <th className={head}>hose or duct</th>
                <th className={head}>of that, down</th>
                <th className={head}>loss</th>
                <th className={head}>a week</th>
                <th className={head}>floor</th>
                <th className={head}>too little for</th>
              </tr>
            </thead>
            <tbody>
              {room.ways.map((w) => (
                <tr key={w.way}>
                  <td className="border-b border-line py-1">{ways[w.way]}</td>
                  <td className={cell}>{distance(w.metres * 1000, units)}</td>
                  <td className={cell}>{w.drops > 0 ? distance(w.drops * 1000, units) : "—"}</td>
                  <td className={cell}>{w.loss > 0 ? `${fixed(w.loss, 0)} Pa` : "—"}</td>
                  <td className={cell}>{w.seconds > 0 ? `${fixed(w.seconds / 60, 0)} min` : "—"}</td>
                  <td className={cell}>{w.floor > 0 ? squares(w.floor, units) : "—"}</td>
                  <td className={cell}>{w.short > 0 ? w.short : "—"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Part>
      )}
      <Part title="Air">
        <p className="m-0" data-testid="air">
          {fixed(room.air.m3, 0)} m³ of air.{" "}
          {room.air.flow > 0
            ? `Its cleaners change it ${fixed(room.air.times, 1)} times an hour: 95 % of the fine dust is gone ${fixed(room.air.clear * 60, 0)} minutes after work.`
            : `No air cleaner is on record; six changes an hour would be ${fixed(room.air.want, 0)} m³/h.`}
          {room.cleaner &&
            ` One would hang best where it is dashed on the plan: under the ceiling, blowing along wall ${room.cleaner.wall}, near ${room.cleaner.by}, its underside ${length(room.cleaner.low, units)} up${room.cleaner.over ? `, over ${room.cleaner.over}` : ""}.`}
        </p>
        <div className="flex items-baseline gap-2">
          <span>The air leaves by</span>
          <Pick
            label="The air leaves by"
            value={room.said.exhaust}
            choices={[{ value: "", name: "the opening nearest to the dust" }, ...room.exits.map((e) => ({ value: e.id, name: e.name }))]}
            onPick={(exhaust) => set.mutate({ base: revision, body: { exhaust } })}
          />
        </div>
        {room.breaths.length > 0 && (
          <table className="mt-1 w-full border-collapse" data-testid="breaths">
            <thead>
              <tr>
                <th className={head + " pl-0! text-left!"}></th>
                <th className={head + " text-left!"}>air</th>
                <th className={head}>to an opening</th>
                <th className={head + " text-left!"}>nearest that spoils it</th>
              </tr>
            </thead>
            <tbody>
              {room.breaths.map((b) => (
                <tr key={b.station}>
                  <td className="border-b border-line py-1">
                    <button type="button" className="text-left hover:text-blue" onClick={() => onChoose(b.station)}>
                      {b.name}
                    </button>
                  </td>
                  <td className={cell + " text-left!"}>{airs[b.air]}</td>
                  <td className={cell}>{b.opening ? distance(b.far, units) : "none marked"}</td>
                  <td className={cell + " text-left! whitespace-normal"}>
                    {b.by ? `${b.by}, ${distance(b.apart, units)}${b.down ? ", up-wind" : ""}` : "—"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Part>
      <Settled room={room} />
      {room.starting.some((x) => x.seconds > 0) && (
        <Part title="Walked to switch the extractor">
          <ul className="m-0 list-none p-0">
            {room.starting.map((x) => (
              <li key={x.station} className="flex justify-between gap-3 border-b border-line py-0.5">
                <span>
                  {x.name} <span className="text-quiet">to {x.by}</span>
                </span>
                <span className="shrink-0 tabular-nums">
                  {x.remote ? "a remote is at hand" : x.seconds > 0 ? `${fixed(x.seconds, 0)} s a week` : "within reach"}
                </span>
              </li>
            ))}
          </ul>
          <p className="m-0 mt-1 text-small text-quiet">
            Most is saved by a start by itself, or a remote at hand, at {room.starting[0]?.name}.{" "}
            {room.starting[0]?.keep
              ? `A remote would hang best at ${room.starting[0].keep}, within reach of where one stands.`
              : "No place is within reach there: hang it on the machine itself."}
          </p>
        </Part>
      )}
    </>
  );
}

const airs = { dusty: "makes dust", clean: "wants it clean", fumes: "makes fumes" } as const;

/** Settled says which machines stand long enough for a fixed duct to be worth it. */
function Settled({ room }: { room: Supplied }) {
  if (room.settled.length === 0) return null;
  const fixedTo = room.settled.filter((x) => x.settled);
  return (
    <Part title="Worth a fixed duct yet?">
      <p className="m-0" data-testid="settled">
        {fixedTo.length === 0
          ? "Not yet: no machine that makes dust is known to stand where it does for a year, and what rolls keeps a hose."
          : `${fixedTo.map((x) => x.name).join(", ")} ${fixedTo.length === 1 ? "has" : "have"} stood there for a year and more: a duct to ${fixedTo.length === 1 ? "it" : "them"} is likely to stay right.`}
      </p>
      <ul className="m-0 list-none p-0">
        {room.settled.map((x) => (
          <li key={x.station} className="flex justify-between gap-3 border-b border-line py-0.5">
            <span>{x.name}</span>
            <span className="shrink-0 text-quiet">
              {x.rolls ? "rolls" : x.months < 0 ? "not noted since when" : x.months === 1 ? "1 month" : `${x.months} months`}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
