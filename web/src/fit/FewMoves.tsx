import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { percent, seconds } from "../units";

/** useFewMoves asks what few moves bring as the shop stands. */
const useFewMoves = (revision: number) =>
  useQuery({
    queryKey: ["few-moves", revision],
    queryFn: async () => unwrap(await api.GET("/api/v1/plans/few-moves", { params: { query: { most: 30 } } })),
    placeholderData: keepPreviousData,
  }).data;

const picked = [3, 5, 12, 30];

/** FewMoves is the curve of what so many moves bring; a point of it is a plan of its own. */
export function FewMoves({ revision, onPlan }: { revision: number; onPlan: (moves: number) => void }) {
  const few = useFewMoves(revision);
  const last = few?.points[few.points.length - 1];
  if (!few || !last || few.before <= 0) return null;
  const low = last.least;
  const x = (moves: number) => 4 + (242 * moves) / last.moves;
  const y = (s: number) => 4 + (56 * (few.before - s)) / Math.max(1, few.before - low);
  const all = few.points;
  const line = (of: (p: (typeof all)[number]) => number) =>
    [`${x(0)},${y(few.before)}`, ...all.map((p) => `${x(p.moves)},${y(of(p))}`)].join(" ");
  const shown = picked.flatMap((n) => few.points.filter((p) => p.moves <= n).slice(-1));
  const points = shown.filter((p, i) => shown.findIndex((o) => o.moves === p.moves) === i);
  return (
    <Part title="What a few moves bring, a week">
      <svg
        viewBox="0 0 250 64"
        className="mb-1 w-full border-b border-line"
        role="img"
        aria-label={`Weekly handling after up to ${last.moves} moves, and the least that could be`}
      >
        <polyline points={line((p) => p.least)} fill="none" stroke="var(--quiet)" strokeDasharray="3 3" />
        <polyline points={line((p) => p.handling)} fill="none" stroke="var(--blue)" strokeWidth={2} />
      </svg>
      <ul className="m-0 list-none p-0" data-testid="few-moves">
        {points.map((p) => (
          <li key={p.moves} className="flex items-baseline justify-between gap-2 py-0.5 text-small">
            <span>
              {p.moves === 1 ? "one move" : `${p.moves} moves`}
              {p.exact && <span className="text-quiet">, none better</span>}
            </span>
            <span className="flex shrink-0 items-baseline gap-2">
              <span>
                −{seconds(few.before - p.handling)} <span className="text-quiet">{percent((few.before - p.handling) / few.before)}</span>
              </span>
              <Button onClick={() => onPlan(p.moves)}>Plan {p.moves === 1 ? "it" : "them"}</Button>
            </span>
          </li>
        ))}
      </ul>
      <p className="m-0 text-small text-quiet">Dashed: what so many moves could save at the very most.</p>
    </Part>
  );
}
