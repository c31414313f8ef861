import { useState } from "react";
import type { Round } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Pick } from "../ui/Pick";
import { fixed, length, metres, percent, squares } from "../units";
import { useLining } from "./useBuild";

/** Lining compares a wall as it is, with rails across it, and lined with boards. */
export function Lining({ round, revision }: { round: Round; revision: number }) {
  const all = round.elevations.filter((e) => !e.middle);
  const walls = all.map((e, i) => ({ value: String(i), name: e.title || `wall ${e.id}` }));
  const [wall, setWall] = useState("0");
  const one = all[Number(wall)];
  const lining = useLining(one?.id ?? "", one?.area ?? "", revision);
  if (walls.length === 0) return null;
  const l = lining.data;
  const head = "border-b border-ink py-1 pl-3 text-right font-normal text-quiet";
  const cell = "border-b border-line py-1 pl-3 text-right align-top whitespace-nowrap tabular-nums";
  return (
    <Part title="Line a wall">
      <p className="m-0 flex flex-wrap items-baseline gap-x-3">
        <Pick label="Wall to line" value={wall} choices={walls} onPick={setWall} />
        {l && (
          <span className="text-quiet">
            {squares(l.m2, round.units)} free up to {length(l.high, round.units)}, {l.studs === 1 ? "one stud" : `${l.studs} studs`}
          </span>
        )}
      </p>
      {lining.error && (
        <p className="m-0 mt-1 text-red" role="alert">
          {lining.error.message}
        </p>
      )}
      {l && (
        <table className="mt-1 w-full border-collapse" data-testid="linings">
          <thead>
            <tr>
              <th className={head + " pl-0! text-left!"}></th>
              <th className={head}>screws hold in</th>
              <th className={head}>sheets</th>
              <th className={head}>left over</th>
              <th className={head}>rail</th>
              <th className={head}>screws</th>
              <th className={head}>hours</th>
              {l.ways.some((w) => w.money > 0) && <th className={head}>cost</th>}
            </tr>
          </thead>
          <tbody>
            {l.ways.map((w) => (
              <tr key={w.kind}>
                <td className="border-b border-line py-1">
                  {w.title}
                  <span className="block text-small text-quiet">{w.says}</span>
                </td>
                <td className={cell}>{percent(w.holds)}</td>
                <td className={cell}>{w.sheets || "—"}</td>
                <td className={cell}>{w.sheets > 0 ? percent(w.waste) : "—"}</td>
                <td className={cell}>{w.rail > 0 ? metres(w.rail, round.units) : "—"}</td>
                <td className={cell}>{w.screws || "—"}</td>
                <td className={cell}>{w.hours > 0 ? fixed(w.hours, 1) : "—"}</td>
                {l.ways.some((x) => x.money > 0) && <td className={cell}>{w.money > 0 ? fixed(w.money, 2) : "—"}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {l && l.cutouts.length > 0 && (
        <p className="mt-1 mb-0 text-red">
          To cut round: {l.cutouts.join(", ")}. Switch off what is behind, and leave what belongs to it to an electrician.
        </p>
      )}
    </Part>
  );
}
