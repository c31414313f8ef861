import type { Layout } from "../api/client";
import { Silhouette, type Own } from "../stage/Silhouette";
import { length, type Units } from "../units";

interface PlanProps {
  layout: Layout;
  units: Units;
  /** box on the screen that it must fit into, px */
  width: number;
  height: number;
  /** thing to make out */
  chosen?: string;
  onPick?: (item: string) => void;
  /** true shape of a thing, where it is known */
  own?: (item: string) => Own | undefined;
  label: string;
}

const margin = 26; // px round the drawing, for its dimension lines

/** Plan draws a place to scale with its dimension lines: what hangs, stands or lies in it, and what it hangs from. */
export function Plan({ layout, units, width, height, chosen, onPick, own, label }: PlanProps) {
  const low = Math.min(0, ...layout.shapes.map((s) => s.x));
  const right = Math.max(layout.w, ...layout.shapes.map((s) => s.x + s.w));
  const k = Math.min((width - 2 * margin) / Math.max(1, right - low), (height - margin - 8) / Math.max(1, layout.h));
  const px = (mm: number) => mm * k;
  const [w, h] = [px(layout.w), px(layout.h)];
  const x0 = margin - px(low);
  const y = (bottom: number, tall: number) => 6 + h - px(bottom) - px(tall);
  const order = { case: 0, front: 1, slot: 2, level: 3, rail: 4, thing: 5 };
  return (
    <svg
      width={width}
      height={Math.min(height, h + margin + 8)}
      role="img"
      aria-label={`${label}, ${layout.view}`}
      data-testid="plan-drawing"
    >
      <g transform={`translate(${x0} 0)`}>
        <rect x={0} y={6} width={w} height={h} fill="var(--wall)" stroke="var(--ink)" strokeWidth={1} />
        {[...layout.shapes]
          .sort((a, b) => order[a.kind] - order[b.kind] || Number(b.back) - Number(a.back))
          .map((s, i) => {
            const box = { x: px(s.x), y: y(s.y, s.h), width: Math.max(1, px(s.w)), height: Math.max(1, px(s.h)) };
            if (s.kind === "thing")
              return (
                <g
                  key={i}
                  data-thing={s.item}
                  opacity={s.back ? 0.55 : 1}
                  style={{ cursor: onPick ? "pointer" : undefined }}
                  onClick={() => onPick?.(s.item)}
                >
                  <title>{s.name}</title>
                  <Silhouette kind={s.glyph} x={box.x} y={box.y} w={box.width} h={box.height} own={own?.(s.item)} />
                  <rect {...box} fill="transparent" stroke={chosen === s.item ? "var(--blue)" : "none"} strokeWidth={2} />
                </g>
              );
            if (s.kind === "slot")
              return (
                <path
                  key={i}
                  d={`M${box.x} ${box.y}v${box.height}M${box.x + box.width} ${box.y}v${box.height}`}
                  stroke="var(--wood-line)"
                  strokeWidth={0.7}
                  strokeDasharray="3 2"
                  fill="none"
                />
              );
            if (s.kind === "case") return <rect key={i} {...box} fill="none" stroke="var(--ink)" strokeWidth={2} />;
            if (s.kind === "front")
              return (
                <g key={i}>
                  <rect {...box} fill="var(--wood)" fillOpacity={0.35} stroke="var(--wood-line)" strokeWidth={1} />
                  {box.height > 14 && box.width > 60 && s.name !== "" && layout.shapes.filter((o) => o.kind === "front").length > 1 && (
                    <path d={`M${box.x + box.width / 2 - 12} ${box.y + box.height / 2}h24`} stroke="var(--wood-line)" strokeWidth={2.4} />
                  )}
                </g>
              );
            return <rect key={i} {...box} fill="url(#section)" stroke="var(--wood-line)" strokeWidth={0.8} />;
          })}
        {/* dimension lines with ticks: width below, height at the left */}
        <path
          d={`M0 ${h + 16}H${w}M0 ${h + 12}v8M${w} ${h + 12}v8M-12 6V${h + 6}M-16 6h8M-16 ${h + 6}h8`}
          stroke="var(--quiet)"
          strokeWidth={1}
          fill="none"
        />
        <text x={w / 2} y={h + 27} fontSize={12} textAnchor="middle" fill="var(--ink)">
          {length(layout.w, units)}
        </text>
        <text transform={`translate(-15 ${h / 2 + 6}) rotate(-90)`} fontSize={12} textAnchor="middle" fill="var(--ink)">
          {length(layout.h, units)}
        </text>
      </g>
      <defs>
        <pattern id="section" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--wood)" />
          <path d="M0 0v5" stroke="var(--wood-line)" strokeWidth="0.8" />
        </pattern>
      </defs>
    </svg>
  );
}
