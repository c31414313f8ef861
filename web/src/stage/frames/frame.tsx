import type { Place } from "../../api/client";

/** Framed is a place to be drawn: top is the height of the drawing, y its upper edge, in mm. */
export interface Framed {
  p: Place;
  top: number;
  y: number;
  chosen: boolean;
  stroke: string;
}

/** framed is what every kind of place is drawn from. */
export function framed(p: Place, top: number, chosen: boolean): Framed {
  return { p, top, y: top - p.z - p.h, chosen, stroke: chosen ? "var(--blue)" : "var(--wood-line)" };
}

/** ground is the front of the place, filled. */
export function ground({ p, y, chosen, stroke }: Framed, fill: string, opacity: number) {
  return (
    <rect
      x={p.x}
      y={y}
      width={p.w}
      height={p.h}
      fill={fill}
      fillOpacity={opacity}
      stroke={stroke}
      strokeWidth={chosen ? 2.2 : 1}
      vectorEffect="non-scaling-stroke"
    />
  );
}

/** rule is one of the lines that the core gives a place. */
export function rule({ top, stroke }: Framed, l: readonly number[], width: number, key: number) {
  return (
    <line
      key={key}
      x1={l[0]}
      x2={l[2]}
      y1={top - (l[1] ?? 0)}
      y2={top - (l[3] ?? 0)}
      stroke={stroke}
      strokeWidth={width}
      vectorEffect="non-scaling-stroke"
    />
  );
}
