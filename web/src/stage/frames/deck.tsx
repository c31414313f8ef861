import type { Framed } from "./frame";
import { Shelf } from "./shelf";

/** Deck is a board hung from the ceiling. */
export function Deck(f: Framed) {
  const { p, top, y } = f;
  const rods = `M${p.x + 60} ${top - p.z}V${y - 300}M${p.x + p.w - 60} ${top - p.z}V${y - 300}`;
  return Shelf(f, <path d={rods} stroke="var(--steel-dark)" strokeWidth={1.6} vectorEffect="non-scaling-stroke" />);
}
