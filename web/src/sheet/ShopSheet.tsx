import type { Round } from "../api/client";
import { useShown } from "../app/shown";
import { seconds } from "../units";
import { Findings } from "./Findings";
import { Empty } from "../ui/Empty";
import { Kept } from "./Kept";
import { Part, Row, Sheet } from "./Sheet";

/** ShopSheet sums the shop up as it stands. */
export function ShopSheet({ round, revision }: { round: Round; revision: number }) {
  const { select } = useShown();
  const t = round.totals;
  if (round.items.length === 0)
    return (
      <Sheet title="Your shop so far" sub={`${round.places.length} places, nothing listed yet`}>
        <Empty title="What homes cost is shown here" act="List what you own" to="/belongings">
          Once things are listed and places are made, this says how long you spend fetching them in a week, what costs most where it is, and
          what to mind.
        </Empty>
        <Kept />
      </Sheet>
    );
  const costly = [...round.items]
    .filter((i) => i.place !== "")
    .sort((a, b) => b.seconds - a.seconds)
    .slice(0, 7);
  const most = Math.max(1, ...t.orders);
  const names = ["no home yet", "1 within arm's reach", "2 a few steps, one door", "3 open and move, or step up", "4 ladder or roll out"];
  return (
    <Sheet title="As it stands" sub={`${t.lines} lines, ${t.pieces} things in ${round.places.length} places`}>
      <Part title="Weekly handling">
        <Row strong label="in all" value={seconds(t.seconds)} />
        <Row label="without a home" value={`${t.homeless} lines`} colour={t.homeless > 0 ? "var(--red)" : undefined} />
      </Part>
      <Part title="How hard things are to reach">
        {[1, 2, 3, 4, 0].map((o) => (
          <div key={o} className="flex items-center gap-2 py-px">
            <span className="narrow w-37.5 shrink-0 text-small">{names[o]}</span>
            <span
              className="h-2.5"
              style={{ width: `${(64 * (t.orders[o] ?? 0)) / most}px`, background: `var(--order-${o})` }}
              aria-hidden
            />
            <span className="ml-auto">{t.orders[o]}</span>
          </div>
        ))}
      </Part>
      <Findings revision={revision} most={4} />
      <Part title="Takes most time where it is">
        {costly.map((i) => (
          <button
            key={i.id}
            onClick={() => select({ kind: "item", id: i.id }, true)}
            className="flex w-full justify-between gap-2 py-0.5 text-left hover:text-blue"
          >
            <span className="min-w-0 flex-1 truncate">{i.name}</span>
            <span className="w-10 shrink-0 text-quiet">{i.place}</span>
            <span className="w-18.5 shrink-0 text-right">{seconds(i.seconds)}</span>
          </button>
        ))}
      </Part>
      <Kept />
    </Sheet>
  );
}
