import type { ReactNode } from "react";
import { ground, type Framed } from "./frame";

/** Rail is a rail along the top, of wood or a magnetic one; under it what it has besides. */
export function Rail(f: Framed, besides?: ReactNode) {
  const { p, y, chosen } = f;
  return (
    <g>
      {chosen && ground(f, "var(--blue)", 0.06)}
      {!chosen && <rect x={p.x} y={y} width={p.w} height={p.h} fill="var(--wood)" fillOpacity={0.14} />}
      <rect x={p.x} y={y - 12} width={p.w} height={34} fill={p.style === "magnet" ? "var(--steel-dark)" : "var(--wood-dark)"} />
      {besides}
    </g>
  );
}
