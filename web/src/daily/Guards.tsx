import type { Guard, Round } from "../api/client";
import { useSet } from "../belongings/useList";
import { useShown } from "../app/shown";
import { inMonths } from "../day";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { day } from "../units";
import { useGuards, useTap } from "./useDaily";

const states: Record<Guard["state"], (g: Guard) => string> = {
  missing: (g) => `looked for on ${day(g.day)} and not there`,
  overdue: (g) => `was to be inspected or replaced by ${day(g.day)}`,
  out: (g) => `out since ${day(g.day)}${g.at ? `: ${g.at}` : ""}`,
  due: (g) => `to be inspected or replaced by ${day(g.day)}`,
};

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

/** Guards is what people rely on when it matters, where it is not as it should be: missing ones first of all. */
export function Guards({ round, revision }: { round: Round; revision: number }) {
  const list = useGuards() ?? [];
  const set = useSet();
  const tap = useTap();
  const { select } = useShown();
  if (list.length === 0) return null;
  return (
    <Part title="What protects you">
      <ul className="m-0 list-none p-0" data-testid="guards">
        {list.map((g) => (
          <li key={g.item} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1 thumb:py-2">
            <button className="min-w-48 flex-1 text-left hover:text-blue" onClick={() => select({ kind: "item", id: g.item }, true)}>
              <b className={g.state === "due" ? "" : "text-red"}>{g.name}</b>
              <span className="block text-small text-quiet">
                {sentence(states[g.state](g))} {sentence(g.says)}
              </span>
            </button>
            <span className="narrow shrink-0 font-bold text-blue">{g.place || "no home"}</span>
            {(g.state === "overdue" || g.state === "due") && (
              <Button
                disabled={set.isPending}
                onClick={() => set.mutate({ base: revision, ids: [g.item], field: "due", text: inMonths(12) })}
              >
                Done, next in a year
              </Button>
            )}
            {g.state === "out" && (
              <Button
                onClick={() =>
                  void tap(
                    { what: "put-back", items: [{ item: g.item, n: round.items.find((i) => i.id === g.item)?.count ?? 1 }] },
                    `${g.name} back`,
                  )
                }
              >
                Put back
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-1 mb-0 text-small text-quiet">The usual caution; what the maker and your local rules say comes first.</p>
    </Part>
  );
}
