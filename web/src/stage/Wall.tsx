import { memo } from "react";
import type { Feature, Elevation } from "../api/client";
import { topAt } from "./geometry";

/** px is how many mm of the drawing one pixel of the screen is. */
interface Drawn {
  elevation: Elevation;
  top: number;
  px: number;
}

/** Wall draws a elevation: its surface, the bands of reach, studs and openings. */
export const Wall = memo(function Wall({ elevation: s, top, px, studs }: Drawn & { studs: boolean }) {
  const outline = `M0 ${top}` + s.profile.map(([x, z]) => `L${x} ${top - (z ?? 0)}`).join("") + `L${s.length} ${top}z`;
  const clip = `wall-${s.area}-${s.id || "middle"}`;
  return (
    <g>
      <clipPath id={clip}>
        <path d={outline} />
      </clipPath>
      <path d={outline} fill={s.middle ? "none" : s.surface === "brick" || s.surface === "block" ? "var(--brick)" : "var(--wall)"} />
      <g clipPath={`url(#${clip})`}>
        {!s.middle && <Bands elevation={s} top={top} />}
        {s.surface === "brick" && <rect width={s.length} height={top} fill="url(#courses)" />}
        {s.surface === "boards" && <rect width={s.length} height={top} fill="url(#boards)" />}
        {!s.claimed && !s.middle && <rect width={s.length} height={top} fill="url(#left-alone)" />}
        {studs &&
          s.studs.map((x) => (
            <line
              key={x}
              x1={x}
              x2={x}
              y1={0}
              y2={top}
              stroke="var(--wood-line)"
              strokeDasharray="6 5"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        {s.features.map((f) => (
          <Opening key={f.id} feature={f} top={top} px={px} elevation={s} />
        ))}
      </g>
      {!s.middle && <path d={outline} fill="none" stroke="var(--ink)" strokeWidth={1.2} vectorEffect="non-scaling-stroke" />}
      <line
        x1={0}
        x2={s.length}
        y1={top}
        y2={top}
        stroke="var(--ink)"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
        strokeDasharray={s.middle ? "2 4" : undefined}
      />
      {/* the fold to the next wall */}
      {!s.middle && (
        <line
          x1={s.length}
          x2={s.length}
          y1={top - topAt(s, s.length)}
          y2={top + 60}
          stroke="var(--ink)"
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <text x={s.length / 2} y={top + 34 * px} textAnchor="middle" fontSize={15 * px} fontWeight={700} fill="var(--ink)">
        {s.middle ? "in the room" : s.id}
        {!s.claimed && !s.middle && (
          <tspan fontWeight={400} fontSize={12 * px} fill="var(--quiet)">
            {"  left alone"}
          </tspan>
        )}
      </text>
    </g>
  );
});

/** Bands shades how each height is reached; over a bench they bend. */
const Bands = memo(function Bands({ elevation, top }: { elevation: Elevation; top: number }) {
  return (
    <g>
      {elevation.reach.map((r) => {
        const w = r.to - r.from + 1;
        if (r.out) return <rect key={r.from} x={r.from} y={0} width={w} height={top} fill="url(#unreached)" />;
        const band = (low: number, high: number, fill: string) =>
          high > low ? <rect x={r.from} y={top - high} width={w} height={high - low} fill={fill} /> : null;
        return (
          <g key={r.from}>
            {band(r.step, 6000, "var(--ladder)")}
            {band(r.stretch, r.step, "var(--band-far)")}
            {band(Math.max(r.easy, r.floor), r.stretch, "var(--band-near)")}
            {band(r.easy_low, r.easy, "var(--band-easy)")}
            {r.floor > 0 && <rect x={r.from} y={top - r.floor} width={w} height={r.floor} fill="url(#unreached)" />}
          </g>
        );
      })}
    </g>
  );
});

function Opening({ feature: f, top, px, elevation }: { feature: Feature; top: number; px: number; elevation: Elevation }) {
  const y = top - f.z - f.h;
  const line = { stroke: "var(--ink)", strokeWidth: 1.2, vectorEffect: "non-scaling-stroke" as const };
  const label = (x: number, z: number, text: string, colour = "var(--quiet)") => (
    <text x={x} y={top - z} textAnchor="middle" fontSize={12 * px} fill={colour}>
      {text}
    </text>
  );
  switch (f.kind) {
    case "door":
    case "double-door":
    case "sectional-door":
    case "up-and-over-door":
      return (
        <g>
          <rect x={f.x} y={y} width={f.w} height={f.h} fill="var(--sheet)" {...line} />
          <rect x={f.x} y={y} width={f.w} height={f.h} fill="url(#hatch)" />
          {f.kind === "double-door" && <line x1={f.x + f.w / 2} x2={f.x + f.w / 2} y1={y} y2={y + f.h} {...line} />}
          {/* the swing: its point is at the hinges */}
          {f.kind === "door" && (
            <path
              d={
                f.hinge === "right"
                  ? `M${f.x} ${y}L${f.x + f.w} ${y + f.h / 2}L${f.x} ${y + f.h}`
                  : `M${f.x + f.w} ${y}L${f.x} ${y + f.h / 2}L${f.x + f.w} ${y + f.h}`
              }
              fill="none"
              stroke="var(--line)"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          )}
          {label(f.x + f.w / 2, f.z + f.h - 22 * px, f.name)}
        </g>
      );
    case "window": {
      const rise = f.shape === "arched" ? f.w * 0.16 : 0;
      const d = `M${f.x} ${y + f.h}V${y + rise}${rise > 0 ? `Q${f.x + f.w / 2} ${y - rise} ${f.x + f.w} ${y + rise}` : `H${f.x + f.w}`}V${y + f.h}z`;
      return (
        <g>
          <path d={d} fill="var(--blue-wash)" fillOpacity={0.55} {...line} />
          <line
            x1={f.x + f.w / 2}
            x2={f.x + f.w / 2}
            y1={y}
            y2={y + f.h}
            stroke="var(--ink)"
            strokeOpacity={0.4}
            vectorEffect="non-scaling-stroke"
          />
          <line
            x1={f.x}
            x2={f.x + f.w}
            y1={y + f.h * 0.5}
            y2={y + f.h * 0.5}
            stroke="var(--ink)"
            strokeOpacity={0.4}
            vectorEffect="non-scaling-stroke"
          />
        </g>
      );
    }
    case "panel": {
      const mid = f.x + f.w / 2;
      const wide = 762;
      const left = Math.max(0, Math.min(mid - wide / 2, elevation.length - wide));
      return (
        <g>
          <rect
            x={left}
            y={top - 1981}
            width={wide}
            height={1981}
            fill="url(#keep-clear)"
            stroke="var(--red)"
            strokeDasharray="5 4"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
          <rect x={f.x} y={y} width={f.w} height={f.h} fill="var(--sheet)" {...line} />
          <path
            d={`M${mid + 30} ${y + f.h * 0.2}L${mid - 50} ${y + f.h * 0.55}H${mid + 30}L${mid - 20} ${y + f.h * 0.85}`}
            fill="none"
            stroke="var(--red)"
            strokeWidth={1.4}
            vectorEffect="non-scaling-stroke"
          />
          <rect x={mid - 40 * px} y={top - 150 - 15 * px} width={80 * px} height={19 * px} fill="var(--wall)" />
          {label(mid, 150, "keep clear", "var(--red)")}
        </g>
      );
    }
    case "outlet":
    case "switch":
      return (
        <g>
          <rect x={f.x} y={y} width={f.w} height={f.h} fill="var(--sheet)" {...line} />
          <circle cx={f.x + f.w * 0.3} cy={y + f.h / 2} r={f.w * 0.09} fill="var(--ink)" />
          <circle cx={f.x + f.w * 0.7} cy={y + f.h / 2} r={f.w * 0.09} fill="var(--ink)" />
        </g>
      );
    default:
      return (
        <g>
          <rect x={f.x} y={y} width={f.w} height={f.h} fill="url(#hatch)" {...line} />
          {label(f.x + f.w / 2, f.z + f.h + 6 * px, f.name)}
        </g>
      );
  }
}

/** Patterns that the walls are filled with; once in every drawing. */
export function Patterns() {
  return (
    <defs>
      <pattern id="hatch" width="60" height="60" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="60" stroke="var(--line)" strokeWidth="5" />
      </pattern>
      <pattern id="unreached" width="70" height="70" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <line x1="0" y1="0" x2="0" y2="70" stroke="var(--line)" strokeWidth="4" strokeOpacity="0.7" />
      </pattern>
      <pattern id="left-alone" width="120" height="120" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="120" stroke="var(--line)" strokeWidth="8" />
      </pattern>
      <pattern id="keep-clear" width="80" height="80" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="80" stroke="var(--red)" strokeWidth="4" strokeOpacity="0.3" />
      </pattern>
      <pattern id="courses" width="250" height="150" patternUnits="userSpaceOnUse">
        <path d="M0 0H250M0 75H250M60 0V75M185 75V150" fill="none" stroke="var(--ink)" strokeOpacity="0.13" strokeWidth="5" />
      </pattern>
      <pattern id="pegs" width="50.8" height="50.8" patternUnits="userSpaceOnUse">
        <circle cx="25" cy="25" r="5" fill="var(--wood-line)" fillOpacity="0.55" />
      </pattern>
      <pattern id="boards" width="140" height="100" patternUnits="userSpaceOnUse">
        <line x1="0" y1="0" x2="0" y2="100" stroke="var(--ink)" strokeOpacity="0.07" strokeWidth="4" />
      </pattern>
    </defs>
  );
}
