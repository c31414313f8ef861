import type { Habits as Taught, HabitLies, Round } from "../api/client";
import { useShown } from "../app/shown";
import { More } from "../ui/More";
import { day, fixed, seconds, squares } from "../units";
import { useHabits } from "./useDaily";

/** Habits is what the days teach. */
export function Habits({ round, revision }: { round: Round; revision: number }) {
  const h = useHabits(revision);
  if (!h) return null;
  return (
    <div className="mt-4">
      <More title="What the days teach">
        <Said h={h} round={round} />
      </More>
    </div>
  );
}

function Said({ h, round }: { h: Taught; round: Round }) {
  const { select } = useShown();
  const go = (id: string) => select({ kind: "item", id }, true);
  const better = (l: HabitLies) => (l.better ? `${l.better} is free and saves ${seconds(l.saves)} a week` : "");
  const list = (title: string, rows: { id: string; name: string; says: string }[]) =>
    rows.length > 0 && (
      <section className="mt-2">
        <h4 className="m-0 text-small font-semibold text-quiet">{title}</h4>
        <ul className="m-0 list-none p-0">
          {rows.map((r) => (
            <li key={r.id} className="flex justify-between gap-3 border-b border-line py-0.5">
              <button className="min-w-0 text-left hover:text-blue" onClick={() => go(r.id)}>
                {r.name}
              </button>
              <span className="shrink-0 text-right text-small text-quiet">{r.says}</span>
            </li>
          ))}
        </ul>
      </section>
    );
  const young = h.began === "";
  return (
    <div data-testid="habits">
      {young && (
        <p className="m-0 text-quiet">Nothing has been taken or used yet: what is pressed here teaches where things would do better.</p>
      )}
      {list(
        "Stays out most",
        h.lying.map((l) => ({ id: l.item, name: l.name, says: [`${l.times} times`, better(l)].filter(Boolean).join("; ") })),
      )}
      {list(
        "Used, and hard to reach",
        h.far.map((l) => ({ id: l.item, name: l.name, says: better(l) })),
      )}
      {list(
        "Within reach, and not used for a season",
        h.near.map((l) => ({ id: l.item, name: l.name, says: l.last ? `last ${day(l.last)}` : l.place })),
      )}
      {list(
        "Not used for a year, by the room it takes",
        h.year.slice(0, 10).map((l) => ({
          id: l.item,
          name: l.name,
          says: l.wall > 0.005 ? squares(l.wall, round.units) : `${fixed(l.litres, 0)} litres`,
        })),
      )}
      {h.odds && (
        <p className={`mt-2 mb-0 ${h.odds.lines > h.odds.most ? "text-red" : ""}`}>
          {h.odds.place}, the place for odds and ends, holds {h.odds.lines} of {h.odds.most} lines.
        </p>
      )}
      {list(
        "Batteries and what runs on them",
        h.power.map((p) => ({
          id: p.battery,
          name: p.count > 1 ? `${p.count} × ${p.name}` : p.name,
          says: [p.tools.length === 1 ? "1 tool" : `${p.tools.length} tools`, p.says].filter(Boolean).join("; "),
        })),
      )}
      {h.power.length > 0 && h.bare.length > 0 && (
        <p className="m-0 text-small text-quiet">On which battery do these run? {h.bare.join(", ")}. Say under “goes with it”.</p>
      )}
      {list(
        "Three this week: a home, or a kind",
        h.three.map((l) => ({ id: l.item, name: l.name, says: better(l) || (l.place === "" ? "no home yet" : l.place) })),
      )}
    </div>
  );
}
