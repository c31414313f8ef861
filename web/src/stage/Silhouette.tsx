import { memo } from "react";
import { glyphOf, type Tone } from "./glyphs";
import { fitted, lies } from "./shapes";

const fills: Record<Tone, string> = { dark: "var(--steel-dark)", wood: "var(--wood-dark)", light: "var(--steel)" };

export interface SilhouetteProps {
  kind: string;
  x: number;
  y: number;
  w: number;
  h: number;
  /** colour of everything instead of the tones, as a lens asks for */
  tint?: string;
  /** out or lent: only the outline stays */
  outline?: boolean;
  /** proposed: drawn in the chalk-line colour */
  chalk?: boolean;
  /** its own shape, where it is known: the sides of the thing and the corners in them */
  own?: Own;
}

/** Own is the true shape of a thing: its width and height, and corners from its left lower corner, mm. */
export interface Own {
  w: number;
  h: number;
  outline?: number[][];
}

/** traced is the own shape in a box, turned by a quarter where the box has its sides the other way round; nothing where it does not fit. */
export function traced(own: Own | undefined, box: { x: number; y: number; w: number; h: number }) {
  if (!own?.outline || box.w <= 0 || box.h <= 0) return undefined;
  const is = box.w / box.h;
  const near = (a: number) => Math.abs(is / a - 1) < 0.01;
  const turn = !near(own.w / own.h);
  if (turn && !near(own.h / own.w)) return undefined;
  const points = own.outline.map(([x = 0, y = 0]) =>
    turn
      ? [box.x + ((own.h - y) / own.h) * box.w, box.y + box.h - (x / own.w) * box.h]
      : [box.x + (x / own.w) * box.w, box.y + box.h - (y / own.h) * box.h],
  );
  return `M${points.map((p) => p.map((v) => Math.round(10 * v) / 10).join(" ")).join("L")}Z`;
}

/** Silhouette draws a thing at its true size, in the units of the drawing. */
export const Silhouette = memo(function Silhouette({ kind, x, y, w, h, tint, outline, chalk, own }: SilhouetteProps) {
  const glyph = glyphOf(kind);
  const box = { x, y, w, h };
  const shape = traced(own, box);
  if (shape)
    return (
      <path
        d={shape}
        fill={outline ? "none" : (tint ?? fills.dark)}
        stroke={chalk ? "var(--blue)" : outline ? "var(--quiet)" : tint ? "var(--paper)" : "var(--ink)"}
        strokeWidth={chalk ? 1.1 : 0.6}
        strokeDasharray={outline ? "3 2" : undefined}
        vectorEffect="non-scaling-stroke"
      />
    );
  const lying = lies(glyph, box);
  return (
    <>
      {glyph.strokes.map((s, i) => (
        <path
          key={i}
          d={fitted(s.d, box, lying)}
          fillRule="evenodd"
          fill={outline ? "none" : (tint ?? fills[s.tone])}
          stroke={chalk ? "var(--blue)" : outline ? "var(--quiet)" : tint ? "var(--paper)" : "var(--ink)"}
          strokeWidth={chalk ? 1.1 : 0.6}
          strokeDasharray={outline ? "3 2" : undefined}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </>
  );
});
