import type { WoodPiece } from "../api/client";

/** how wide the longest piece is drawn, and how large an end is, px. */
const wide = 132;
const end = 26;

/** Ends draws a piece to scale: its face, as long as it is beside the longest, and its end beside it, larger. */
export function Ends({ piece: p, longest }: { piece: WoodPiece; longest: number }) {
  const k = wide / Math.max(1, longest);
  const h = Math.max(2, Math.min(22, p.w * k));
  const big = Math.min(end / p.w, end / p.t, 0.5);
  const lines = Math.max(1, Math.min(4, Math.round(h / 5)));
  return (
    <svg width={wide + end + 8} height={28} className="shrink-0 max-md:hidden" aria-hidden>
      <rect x={0.5} y={14 - h / 2} width={Math.max(3, p.l * k)} height={h} fill="var(--wood)" stroke="var(--wood-line)" />
      {!p.across &&
        Array.from({ length: lines }, (_, i) => (
          <line
            key={i}
            x1={2}
            x2={Math.max(3, p.l * k) - 2}
            y1={14 - h / 2 + ((i + 1) * h) / (lines + 1)}
            y2={14 - h / 2 + ((i + 1) * h) / (lines + 1)}
            stroke="var(--wood-line)"
            strokeWidth={0.5}
            strokeDasharray="9 3"
          />
        ))}
      <rect
        x={wide + 6}
        y={14 - (p.t * big) / 2}
        width={Math.max(2, p.w * big)}
        height={Math.max(2, p.t * big)}
        fill="var(--wood)"
        stroke="var(--ink)"
        strokeWidth={0.7}
      />
    </svg>
  );
}
