import { load, seconds } from "../units";
import { Silhouette } from "./Silhouette";
import type { Round } from "../api/client";
import { onScreen } from "./onScreen";
import type { Carried } from "./useDrag";
import { useUnits } from "../app/useUnits";

/** gap between pieces that are held side by side, in mm. */
const gap = 20;

/** Ghost is the held thing at the pointer with what the core says about the spot. */
export function Ghost({ drag, round }: { drag: Carried; round: Round }) {
  const units = useUnits();
  const { what: item, at, target, answer } = drag;
  const scale = onScreen(round)?.scale ?? 0.15;
  const w = Math.max(10, (item.count * item.w + (item.count - 1) * gap) * scale);
  const h = Math.max(10, item.h * scale);
  const one = w / item.count;
  return (
    <div className="pointer-events-none fixed z-50" style={{ left: at.x, top: at.y }} data-testid="ghost">
      <svg width={w} height={h} style={{ position: "absolute", left: -w / 2, top: -h / 2, opacity: 0.85 }} aria-hidden>
        {Array.from({ length: Math.min(item.count, 12) }, (_, k) => (
          <Silhouette key={k} kind={item.glyph} x={(k * w) / Math.min(item.count, 12)} y={0} w={Math.max(4, one - 2)} h={h} chalk />
        ))}
      </svg>
      <div
        className={`absolute top-4 left-4 w-max max-w-72 border px-2 py-1 text-small ${answer && !answer.allowed ? "border-red bg-red-wash text-red" : "border-blue bg-sheet text-ink"}`}
        role="status"
      >
        <b>{item.name}</b>
        {target && !answer && <div className="text-quiet">{target.place} …</div>}
        {!target && <div className="text-quiet">drop it on a place</div>}
        {answer?.allowed && (
          <div>
            {target?.place}: <b>{seconds(answer.here)}</b> a week here, {seconds(answer.now)} now
            {answer.capacity > 0 && <div className="text-quiet">carries {load(answer.load, answer.capacity, units)} then</div>}
            {answer.caution && <div className="text-red">caution: {answer.caution}</div>}
          </div>
        )}
        {answer && !answer.allowed && (
          <div>
            not in {target?.place}: {answer.why}
          </div>
        )}
      </div>
    </div>
  );
}
