/** Scale puts a floor into a box of the screen, as large as it goes, with y upwards. */
export interface Scale {
  /** px per mm */
  s: number;
  left: number;
  right: number;
  low: number;
  high: number;
  /** a spot of the floor on the screen, px */
  at: (p: readonly (number | undefined)[]) => [number, number];
  /** several as an SVG writes them */
  points: (list: readonly (readonly (number | undefined)[])[]) => string;
  /** a point of the box on the floor, mm */
  mm: (x: number, y: number) => [number, number];
}

/** scaled fits the corners of a room into a box with so much room round it, px. */
export function scaled(corners: readonly (readonly number[])[], box: { w: number; h: number }, pad: number): Scale {
  const xs = corners.map((c) => c[0] ?? 0);
  const ys = corners.map((c) => c[1] ?? 0);
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const s = Math.max(0.001, Math.min((box.w - 2 * pad) / (right - left || 1), (box.h - 2 * pad) / (high - low || 1)));
  const ox = (box.w - (right - left) * s) / 2;
  const oy = (box.h - (high - low) * s) / 2;
  const at: Scale["at"] = (p) => [ox + ((p[0] ?? 0) - left) * s, oy + (high - (p[1] ?? 0)) * s];
  return {
    s,
    left,
    right,
    low,
    high,
    at,
    points: (list) => list.map((p) => at(p).join(",")).join(" "),
    mm: (x, y) => [left + (x - ox) / s, high - (y - oy) / s],
  };
}
