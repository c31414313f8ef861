import type { Framed } from "./frame";

/** Drawer is the front of a drawer, with its pull. */
export function Drawer(f: Framed) {
  const { p, y, stroke, chosen } = f;
  return (
    <g>
      <rect
        x={p.x}
        y={y}
        width={p.w}
        height={p.h}
        rx={6}
        fill="var(--sheet)"
        stroke={stroke}
        strokeWidth={chosen ? 2.2 : 1.1}
        vectorEffect="non-scaling-stroke"
      />
      <rect x={p.x + p.w / 2 - 60} y={y + Math.min(p.h * 0.28, 40)} width={120} height={18} rx={9} fill="var(--steel-dark)" />
    </g>
  );
}
