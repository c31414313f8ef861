import type { Elevation } from "../api/client";

/** Outlines are walls side by side, in the units of the round; from is the left edge of the first, high the height of the drawing. */
export const Outlines = ({ walls, from, high }: { walls: readonly Elevation[]; from: number; high: number }) =>
  walls.map((s) => (
    <path
      key={s.area + s.id}
      d={
        `M${s.offset - from} ${high}` +
        s.profile.map(([x, z]) => `L${s.offset - from + (x ?? 0)} ${high - (z ?? 0)}`).join("") +
        `L${s.offset - from + s.length} ${high}z`
      }
      fill="var(--sheet)"
      stroke="var(--ink)"
      strokeWidth={1}
      vectorEffect="non-scaling-stroke"
    />
  ));
