import type { Item, Round } from "../api/client";
import type { Proposed } from "../places/Places";
import { length } from "../units";
import type { Carried } from "./useDrag";

/** Mark rings the selected thing and gives its width and height as dimension lines. */
export function Mark({ round, item, top, px }: { round: Round; item: Item; top: number; px: number }) {
  const s = round.elevations[item.elevation];
  if (!s || item.pieces.length === 0) return null;
  const hidden = item.hidden;
  const place = round.places.find((p) => p.id === item.place);
  const boxes = hidden && place ? [{ x: place.x, z: place.z, w: place.w, h: place.h }] : item.pieces;
  const left = Math.min(...boxes.map((b) => b.x));
  const right = Math.max(...boxes.map((b) => b.x + b.w));
  const low = Math.min(...boxes.map((b) => b.z));
  const high = Math.max(...boxes.map((b) => b.z + b.h));
  const m = 5 * px;
  return (
    <g transform={`translate(${s.offset} 0)`} pointerEvents="none" data-testid="mark">
      <rect
        x={left - m}
        y={top - high - m}
        width={right - left + 2 * m}
        height={high - low + 2 * m}
        fill="none"
        stroke="var(--blue)"
        strokeWidth={2.4}
        vectorEffect="non-scaling-stroke"
      />
      {/* the height above the floor, as a dimension line with ticks */}
      <path
        d={`M${right + 3 * m} ${top}V${top - low}M${right + 2 * m} ${top}h${2 * m}M${right + 2 * m} ${top - low}h${2 * m}`}
        stroke="var(--blue)"
        strokeWidth={1}
        strokeDasharray="none"
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
      <text
        x={right + 4.5 * m}
        y={top - low / 2}
        fontSize={12.5 * px}
        fontWeight={600}
        fill="var(--blue)"
        paintOrder="stroke"
        stroke="var(--paper)"
        strokeWidth={4 * px}
      >
        {length(low, round.units)}
      </text>
    </g>
  );
}

/** Outline is where a place that is being made would go. */
export function Outline({ round, proposed: p, top }: { round: Round; proposed: Proposed & { bad?: boolean }; top: number }) {
  const s = round.elevations.find((s) => s.area === p.area && s.id === p.wall && !s.middle);
  if (!s) return null;
  return (
    <g transform={`translate(${s.offset} 0)`} pointerEvents="none" data-testid="proposed">
      <rect
        x={p.x}
        y={top - p.z - p.h}
        width={p.w}
        height={p.h}
        fill={p.bad ? "var(--red)" : "var(--blue)"}
        fillOpacity={0.18}
        stroke={p.bad ? "var(--red)" : "var(--blue)"}
        strokeWidth={2.4}
        strokeDasharray={p.bad ? "2 4" : "8 4"}
        vectorEffect="non-scaling-stroke"
      />
    </g>
  );
}

/** Landing shows where a dragged thing would hang, or where it may not. */
export function Landing({ round, drag, top }: { round: Round; drag: Carried; top: number }) {
  const t = drag.target && { place: drag.target.place, answer: drag.answer };
  const p = round.places.find((x) => x.id === t?.place);
  const s = p && round.elevations[p.elevation];
  if (!t || !p || !s) return null;
  const front = t.answer?.front as [number, number, number, number] | undefined;
  const colour = t.answer ? (t.answer.allowed ? "var(--blue)" : "var(--red)") : "var(--quiet)";
  return (
    <g transform={`translate(${s.offset} 0)`} pointerEvents="none" data-testid="landing" data-allowed={t.answer?.allowed}>
      <rect
        x={p.x}
        y={top - p.z - p.h}
        width={p.w}
        height={p.h}
        fill={colour}
        fillOpacity={0.1}
        stroke={colour}
        strokeWidth={2.4}
        strokeDasharray={t.answer?.allowed ? undefined : "6 4"}
        vectorEffect="non-scaling-stroke"
      />
      {front && (
        <rect
          x={p.x + front[0]}
          y={top - p.z - front[1] - front[3]}
          width={front[2]}
          height={front[3]}
          fill="var(--blue)"
          fillOpacity={0.25}
          stroke="var(--blue)"
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      )}
    </g>
  );
}
