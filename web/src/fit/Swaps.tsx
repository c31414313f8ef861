import { useShown } from "../app/shown";
import { Part } from "../sheet/Sheet";
import { seconds } from "../units";
import { useSwap, useSwaps } from "./useWorking";
import { useDone } from "../app/shop";

/** Swaps are single changes that save most: two things that change homes, or one that moves to a free spot. */
export function Swaps({ revision }: { revision: number }) {
  const swaps = useSwaps(revision);
  const swap = useSwap();
  const done = useDone();
  const { select } = useShown();
  if (!swaps || swaps.length === 0) return null;
  return (
    <Part title="Small changes worth making, a week">
      <ul className="m-0 list-none p-0" aria-label="Small changes worth making">
        {swaps.map((x) => {
          const items = x.moves.map((m) => m.item);
          const [a, b] = x.moves;
          const what = b ? `Swap ${a?.name} and ${b.name}` : `Move ${a?.name} to ${a?.to}`;
          return (
            <li key={items.join()} className="flex items-baseline justify-between gap-2 py-0.5 text-small">
              <span className="min-w-0">
                {x.moves.map((m, i) => (
                  <span key={m.item}>
                    {i > 0 && " ⇄ "}
                    <button className="text-left hover:text-blue" onClick={() => select({ kind: "item", id: m.item }, true)}>
                      {m.name}
                    </button>{" "}
                    <span className="narrow text-quiet">{b ? m.from : `${m.from} → ${m.to}`}</span>
                  </span>
                ))}
                {x.moves
                  .filter((m) => m.idle > 0)
                  .map((m) => (
                    <span key={m.item} className="block text-small text-quiet">
                      {m.name} was not used for {Math.floor(m.idle)} weeks
                    </span>
                  ))}
              </span>
              <span className="flex shrink-0 items-baseline gap-2">
                <span>−{seconds(x.saves)}</span>
                <button
                  aria-label={what}
                  className="font-semibold text-blue hover:underline"
                  disabled={swap.isPending}
                  onClick={() => swap.mutate({ base: revision, items }, { onSuccess: (r) => done(`${r.what}.`, r) })}
                >
                  {b ? "Swap" : "Move"}
                </button>
              </span>
            </li>
          );
        })}
      </ul>
    </Part>
  );
}
