import { ground, type Framed } from "./frame";

/** Arms is arms on posts, a level above another. */
export function Arms(f: Framed) {
  const { p, top, y, chosen } = f;
  return (
    <g>
      {chosen && ground(f, "var(--blue)", 0.06)}
      {p.lines.map((l, i) => (
        <g key={i}>
          {armsAlong(l[0] ?? 0, l[2] ?? 0).map((x) => (
            <rect key={x} x={x - 26} y={top - (l[1] ?? 0)} width={52} height={40} fill="var(--steel-dark)" />
          ))}
        </g>
      ))}
      {armsAlong(p.x, p.x + p.w).map((x) => (
        <rect key={x} x={x - 14} y={y} width={28} height={p.h} fill="var(--steel-dark)" fillOpacity={0.55} />
      ))}
    </g>
  );
}

/** armsAlong spaces arms about 600 apart between two ends. */
function armsAlong(from: number, to: number): number[] {
  const n = Math.max(2, Math.round((to - from) / 700) + 1);
  return Array.from({ length: n }, (_, i) => from + ((to - from) * i) / (n - 1));
}
