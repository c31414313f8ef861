import type { ReactNode } from "react";
import { ground, type Framed } from "./frame";

/** Shelf is a board, with what it has besides. */
export function Shelf(f: Framed, besides?: ReactNode) {
  const { p, top } = f;
  return (
    <g>
      {(f.chosen || p.host === "") && ground(f, "var(--wood)", 0.16)}
      <rect x={p.x - (p.host === "" ? 0 : 4)} y={top - p.z} width={p.w + (p.host === "" ? 0 : 8)} height={20} fill="var(--wood-dark)" />
      {besides}
    </g>
  );
}
