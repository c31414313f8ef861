import { Part } from "../sheet/Sheet";
import { fixed, percent } from "../units";
import type { Supplied } from "./useSupply";

/** Circuits are the circuits, each with the most that runs on it at the same time. */
export function Circuits({ room }: { room: Supplied }) {
  const worst = new Map<string, Supplied["loads"][number]>();
  for (const l of room.loads) if ((worst.get(l.circuit)?.amps ?? 0) < l.amps) worst.set(l.circuit, l);
  return (
    <Part title="Circuits at their fullest">
      {worst.size === 0 && <p className="m-0 text-quiet">Nobody said on which circuit the outlets are.</p>}
      <ul className="m-0 list-none p-0">
        {[...worst.values()].map((l) => (
          <li key={l.circuit} className={`flex justify-between gap-3 border-b border-line py-0.5 ${l.over ? "text-red" : ""}`}>
            <span>
              <b>{l.circuit}</b> <span className="text-small">{l.names.join(", ")}</span>
            </span>
            <span className="shrink-0 tabular-nums">
              {fixed(l.amps, 1)} A{l.rated > 0 && `, ${percent(l.amps / l.rated)}`}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
