import svgpath from "svgpath";
import type { Glyph } from "./glyphs";

/** Step is a command of a path with the points it takes, absolute. */
type Step = [command: string, ...points: [x: number, y: number][]];

const read = new Map<string, Step[]>();

/** steps of a path, its arcs made into curves; read once. */
function steps(d: string): Step[] {
  let all = read.get(d);
  if (!all) {
    const out: Step[] = [];
    svgpath(d)
      .abs()
      .unshort()
      .unarc()
      .iterate(([command, ...v], _, x, y) => {
        const n = v as number[];
        if (command === "H") out.push(["L", [n[0]!, y]]);
        else if (command === "V") out.push(["L", [x, n[0]!]]);
        else out.push([command, ...n.flatMap((at, i) => (i % 2 === 0 ? [[at, n[i + 1]!] as [number, number]] : []))]);
      });
    read.set(d, (all = out));
  }
  return all;
}

/** Box is where a thing is drawn, in the units of the drawing. */
export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** lies tells whether a glyph is turned on its side in a box. */
export const lies = (glyph: Glyph, { w, h }: Box) => glyph.tall && w > h * 1.15;

/**
 * fitted is a path of the 100 × 100 box as it is in another, turned a quarter to the left where the thing lies. It is
 * worked out rather than left to a transform: the browser keeps a layer of its books for each transform, and
 * thousands of them make scrolling stumble.
 */
export function fitted(d: string, { x, y, w, h }: Box, lying: boolean): string {
  const place = ([u, v]: [number, number]) =>
    lying ? `${round(x + (v * w) / 100)} ${round(y + h - (u * h) / 100)}` : `${round(x + (u * w) / 100)} ${round(y + (v * h) / 100)}`;
  return steps(d)
    .map(([command, ...points]) => command + points.map(place).join(" "))
    .join("");
}

/** round to a hundredth of a millimetre. */
const round = (v: number) => Math.round(v * 100) / 100;
