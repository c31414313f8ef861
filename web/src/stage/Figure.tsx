import type { Round } from "../api/client";
import { length } from "../units";

const figureWidth = 104;

/** Figure is the owner's outline at true height with the bands of reach beside it. */
export function Figure({ round, scale, top }: { round: Round; scale: number; top: number }) {
  const f = round.figure;
  const y = (z: number) => (top - z) * scale;
  const bands: [string, number, number][] = [
    ["kneel", 0, f.knee],
    ["bend", f.knee, f.fingertip],
    ["easy", f.fingertip, f.shoulder],
    ["stretch", f.shoulder, f.stretch],
    ["step", f.stretch, f.step],
    ["ladder", f.step, f.step + 360],
  ];
  const tints: Record<string, string> = {
    easy: "var(--band-easy)",
    stretch: "var(--band-near)",
    step: "var(--band-far)",
    ladder: "var(--ladder)",
  };
  // The body, 0 to 1 of the stature, facing the walls.
  const H = f.stature;
  const cx = 66;
  const u = H * scale;
  const at = (share: number) => y(H * share);
  return (
    <svg
      width={figureWidth}
      height={(top + 260) * scale}
      className="shrink-0"
      role="img"
      aria-label={`The owner, ${length(H, round.units)} tall, with the bands of reach`}
    >
      {bands.map(([name, low, high]) => (
        <g key={name}>
          <rect
            x={0}
            y={Math.max(0, y(high))}
            width={figureWidth}
            height={Math.max(0, y(low) - Math.max(0, y(high)))}
            fill={tints[name] ?? "var(--wall)"}
            fillOpacity={0.75}
          />
          <line x1={0} x2={figureWidth} y1={y(low)} y2={y(low)} stroke="var(--line)" />
          <text x={8} y={(y(low) + Math.max(8, y(high))) / 2 + 4} fontSize={12} fill="var(--ink)">
            {name}
          </text>
        </g>
      ))}
      <g fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.3} strokeLinejoin="round">
        {/* the raised arm, the trunk with its legs, the head */}
        <path
          d={`M${cx + 0.045 * u} ${at(0.8)}Q${cx + 0.1 * u} ${at(0.9)} ${cx + 0.115 * u} ${at(1.13)}l${0.022 * u} 0Q${cx + 0.15 * u} ${at(0.88)} ${cx + 0.07 * u} ${at(0.7)}z`}
        />
        <path
          d={`M${cx - 0.035 * u} ${at(0.845)}Q${cx - 0.095 * u} ${at(0.82)} ${cx - 0.085 * u} ${at(0.68)}L${cx - 0.07 * u} ${at(0.47)}L${cx - 0.075 * u} ${at(0.28)}L${cx - 0.055 * u} ${at(0.0)}H${cx + 0.03 * u}L${cx + 0.035 * u} ${at(0.03)}L${cx - 0.005 * u} ${at(0.045)}L${cx + 0.035 * u} ${at(0.28)}L${cx + 0.06 * u} ${at(0.5)}Q${cx + 0.085 * u} ${at(0.66)} ${cx + 0.07 * u} ${at(0.8)}Q${cx + 0.06 * u} ${at(0.84)} ${cx + 0.03 * u} ${at(0.845)}z`}
        />
        <path d={`M${cx - 0.02 * u} ${at(0.86)}v${0.02 * u}h${0.04 * u}v${-0.02 * u}z`} />
        <ellipse cx={cx} cy={at(0.932)} rx={0.048 * u} ry={0.068 * u} />
      </g>
      <line x1={0} x2={figureWidth} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={2} />
      <text x={cx} y={y(0) + 20} fontSize={12} textAnchor="middle" fill="var(--ink)">
        {length(H, round.units)}
      </text>
    </svg>
  );
}
