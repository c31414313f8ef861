import { ground, type Framed } from "./frame";

/** Roller is bars between two cheeks. */
export function Roller(f: Framed) {
  const { p, top, y, chosen } = f;
  return (
    <g>
      {ground(f, "var(--wood)", chosen ? 0.16 : 0.08)}
      {[p.x, p.x + p.w - 18].map((x) => (
        <rect key={x} x={x} y={y} width={18} height={p.h} fill="var(--wood-dark)" fillOpacity={0.7} />
      ))}
      {p.lines.map((l, i) => (
        <rect key={i} x={l[0]} y={top - (l[1] ?? 0) - 9} width={(l[2] ?? 0) - (l[0] ?? 0)} height={18} rx={9} fill="var(--steel-dark)" />
      ))}
    </g>
  );
}
