import { ground, type Framed } from "./frame";

/** WallField is a wall field: a board, pegs, cleats or bare wall. */
export function WallField(f: Framed) {
  const { p, top, y } = f;
  return (
    <g>
      {ground(f, "var(--wood)", p.style === "screw" ? 0.12 : 0.42)}
      {p.style === "peg" && <rect x={p.x} y={y} width={p.w} height={p.h} fill="url(#pegs)" />}
      {p.style === "cleat" &&
        p.lines.map((l, i) => (
          <rect
            key={i}
            x={l[0]}
            y={top - (l[1] ?? 0) - 22}
            width={(l[2] ?? 0) - (l[0] ?? 0)}
            height={44}
            fill="var(--wood-dark)"
            fillOpacity={0.75}
          />
        ))}
    </g>
  );
}
