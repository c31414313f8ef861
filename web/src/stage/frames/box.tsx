import { ground, rule, type Framed } from "./frame";

/** Bin is open at the top. */
export function Bin(f: Framed) {
  return ground(f, "var(--wood)", 0.35);
}

/** Floor is a spot of floor. */
export function Floor(f: Framed) {
  return ground(f, "var(--wood)", 0.1);
}

/** SheetBay holds sheets on edge behind a strap. */
export function SheetBay(f: Framed) {
  const { p } = f;
  return (
    <g>
      {ground(f, "var(--wood)", 0.35)}
      {rule(f, [p.x, p.z + p.h * 0.3, p.x + p.w, p.z + p.h * 0.3], 2, 0)}
    </g>
  );
}
