import type { WoodPiece } from "../api/client";
import { size, type Units } from "../units";

/** sizeOf a piece: length, width and thickness. */
export const sizeOf = (p: Pick<WoodPiece, "l" | "w" | "t">, units: Units): string => size([p.l, p.w, p.t], units);
