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
}

/** Silhouette draws a thing at its true size, in the units of the drawing. */
export const Silhouette = memo(function Silhouette({ kind, x, y, w, h, tint, outline, chalk }: SilhouetteProps) {
  const glyph = glyphOf(kind);
  const box = { x, y, w, h };
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
