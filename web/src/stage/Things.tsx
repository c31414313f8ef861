import { memo, type ReactNode } from "react";
import type { Place, Thing } from "../api/client";
import { frame, isFront } from "./frames";

const line = { stroke: "var(--ink)", strokeWidth: 1.1, vectorEffect: "non-scaling-stroke" as const };

/** Standing draws what stands on the floor or hangs as a box, at its true size. */
export const Standing = memo(function Standing({ thing: t, top, px }: { thing: Thing; top: number; px: number }) {
  const base = top - t.z;
  return (
    <g>
      <g transform={`translate(${t.x} ${base})`}>{body(t)}</g>
      {t.station && t.kind !== "bench" && (
        <text
          x={t.x + t.w / 2}
          y={base - 14 * px}
          textAnchor="middle"
          fontSize={11.5 * px}
          fill="var(--ink)"
          className="narrow"
          paintOrder="stroke"
          stroke="var(--sheet)"
          strokeWidth={3 * px}
        >
          {short(t.name, (t.w / px) * 1.25)}
        </text>
      )}
    </g>
  );
});

/** short cuts a name to what fits so many pixels. */
function short(name: string, room: number): string {
  const first = name.split(" on ")[0] ?? name;
  return first.length * 6 <= room ? first : (first.split(" ").pop() ?? first);
}

/** body draws a thing with its floor line at y = 0, up negative. */
function body(t: Thing): ReactNode {
  const { w, h, tall } = t;
  const box = (x: number, z: number, bw: number, bh: number, fill: string) => (
    <rect x={x} y={-z - bh} width={bw} height={bh} fill={fill} {...line} />
  );
  const caster = (x: number) => <circle cx={x} cy={-38} r={36} fill="var(--steel-dark)" />;
  switch (t.kind) {
    case "bench":
    case "sharpening":
    case "bending":
    case "finishing":
      return (
        <>
          <rect x={40} y={-h + 70} width={w - 80} height={h - 70} fill="var(--wall)" fillOpacity={0.9} />
          {box(30, 0, 90, h - 70, "var(--wood)")}
          {box(w - 120, 0, 90, h - 70, "var(--wood)")}
          {box(120, 160, w - 240, 70, "var(--wood)")}
          {box(-20, h - 75, w + 40, 75, "var(--wood)")}
        </>
      );
    case "table":
      return (
        <>
          <path
            d={`M80 0L${w - 200} ${-h + 50}M${w - 80} 0L200 ${-h + 50}`}
            stroke="var(--wood-line)"
            strokeWidth={4}
            vectorEffect="non-scaling-stroke"
          />
          {box(0, h - 50, w, 50, "var(--wood)")}
        </>
      );
    case "bandsaw":
      return (
        <>
          {box(w * 0.12, 0, w * 0.62, h - 60, "var(--steel)")}
          {box(0, h - 60, w, 40, "var(--steel)")}
          {box(w * 0.62, h - 20, w * 0.16, tall * 0.2, "var(--steel)")}
          <circle cx={w * 0.42} cy={-(h * 0.5)} r={w * 0.27} fill="none" {...line} />
          <circle cx={w * 0.46} cy={-(tall - w * 0.36)} r={w * 0.36} fill="var(--steel)" {...line} />
          <circle cx={w * 0.46} cy={-(tall - w * 0.36)} r={w * 0.05} fill="var(--ink)" />
          <line x1={w * 0.18} x2={w * 0.18} y1={-h + 20} y2={-(tall - w * 0.36)} {...line} strokeWidth={2} />
        </>
      );
    case "drill-press":
      return (
        <>
          {box(w * 0.1, 0, w * 0.8, 70, "var(--steel)")}
          {box(w * 0.42, 70, w * 0.16, tall - 200, "var(--steel-dark)")}
          {box(0, h - 40, w, 40, "var(--steel)")}
          {box(w * 0.08, tall - 420, w * 0.84, 420, "var(--steel)")}
          {box(w * 0.43, tall - 560, w * 0.14, 140, "var(--steel-dark)")}
          <path d={`M${w * 0.92} ${-(tall - 330)}l${w * 0.22} 110`} {...line} strokeWidth={2.4} />
        </>
      );
    case "lathe":
      return (
        <>
          <path
            d={`M60 0L110 ${-(h - 190)}M${w - 60} 0L${w - 110} ${-(h - 190)}`}
            stroke="var(--wood-line)"
            strokeWidth={5}
            vectorEffect="non-scaling-stroke"
          />
          {box(30, h - 190, w - 60, 90, "var(--wood)")}
          {box(40, h - 100, w * 0.26, tall - h + 60, "var(--steel)")}
          {box(w * 0.76, h - 100, w * 0.16, tall - h - 20, "var(--steel)")}
          <path d={`M${w * 0.3} ${-(h + 50)}h${w * 0.46}`} stroke="var(--wood-dark)" strokeWidth={6} vectorEffect="non-scaling-stroke" />
        </>
      );
    case "planer":
      return (
        <>
          {caster(70)}
          {caster(w - 70)}
          {box(20, 74, w - 40, h * 0.5, "var(--wood)")}
          {box(0, h - 130, w, 60, "var(--steel)")}
          {box(30, h - 70, w - 60, tall - h + 70, "var(--steel)")}
          <path d={`M${w * 0.2} ${-(h + 40)}h${w * 0.6}`} {...line} strokeWidth={3} />
        </>
      );
    case "drum-sander":
      return (
        <>
          {box(60, 0, 70, h - 120, "var(--steel)")}
          {box(w - 130, 0, 70, h - 120, "var(--steel)")}
          {box(0, h - 120, w, 90, "var(--steel)")}
          <path
            d={`M30 ${-(h - 20)}V${-(tall - 90)}Q30 ${-tall} 130 ${-tall}H${w - 130}Q${w - 30} ${-tall} ${w - 30} ${-(tall - 90)}V${-(h - 20)}z`}
            fill="var(--steel)"
            {...line}
          />
          <path d={`M90 ${-(h + 70)}H${w - 90}`} stroke="var(--wood-dark)" strokeWidth={8} vectorEffect="non-scaling-stroke" />
        </>
      );
    case "cabinet":
    case "door-back":
      return (
        <>
          {box(0, 0, w, h, "var(--wood)")}
          {t.kind === "cabinet" && <line x1={w / 2} x2={w / 2} y1={-h} y2={0} {...line} />}
          {t.kind === "cabinet" && (
            <path d={`M${w / 2 - 40} ${-h / 2 - 50}v100M${w / 2 + 40} ${-h / 2 - 50}v100`} {...line} strokeWidth={2.4} />
          )}
        </>
      );
    case "chest":
      return box(0, 0, w, h, "var(--wood)");
    case "shelving":
      return (
        <>
          {box(0, 0, w, h, "var(--wall)")}
          {box(0, 0, 22, h, "var(--wood)")}
          {box(w - 22, 0, 22, h, "var(--wood)")}
          {box(0, h - 20, w, 20, "var(--wood)")}
        </>
      );
    case "cart":
    case "trolley":
      return (
        <>
          {caster(80)}
          {caster(w - 80)}
          {box(0, 74, w, h - 74, "var(--wall)")}
          {box(0, 74, 34, h - 74, "var(--wood)")}
          {box(w - 34, 74, 34, h - 74, "var(--wood)")}
          {box(0, h - 40, w, 40, "var(--wood)")}
        </>
      );
    default:
      return (
        <>
          {box(0, 0, w, h, "var(--steel)")}
          {tall > h && box(w * 0.15, h, w * 0.7, tall - h, "var(--steel)")}
        </>
      );
  }
}

/** Frame draws a place: its ground, rails, slots, arms or drawer front. */
export const Frame = memo(function Frame({ place, top, chosen }: { place: Place; top: number; chosen: boolean }) {
  return frame(place, top, chosen);
});

/** Tag is the address of a place; what is too small for one is named when chosen. */
export function Tag({ place: p, top, px, chosen }: { place: Place; top: number; px: number; chosen: boolean }) {
  const size = 11.5 * px;
  const wide = (p.id.length * 7 + 8) * px;
  const drawer = isFront(p);
  if (!chosen && (wide > p.w || (drawer ? p.h < 13 * px : p.h < 26 * px && p.host !== ""))) return null;
  const x = p.x + (drawer ? 5 * px : 0);
  const y = drawer ? top - p.z - 5 * px : top - p.z - p.h - 5 * px;
  const inside = !drawer && p.host !== "";
  return (
    <text
      x={inside ? p.x + 4 * px : x}
      y={inside ? top - p.z - p.h + 12 * px : y}
      fontSize={size}
      fontWeight={600}
      fill={chosen ? "var(--blue)" : "var(--wood-line)"}
      paintOrder="stroke"
      stroke="var(--paper)"
      strokeWidth={drawer ? 0 : 3 * px}
      pointerEvents="none"
    >
      {p.id}
    </text>
  );
}
