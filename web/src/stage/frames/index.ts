import type { ReactNode } from "react";
import type { Place } from "../../api/client";
import { Arms } from "./arms";
import { Bin, Floor, SheetBay } from "./box";
import { Deck } from "./deck";
import { Drawer } from "./drawer";
import { framed, type Framed } from "./frame";
import { Hook } from "./hook";
import { Rail } from "./rail";
import { Roller } from "./roller";
import { Shelf } from "./shelf";
import { Slots } from "./slots";
import { WallField } from "./wallField";

/** frames draw places, one for each kind there is; a kind without one does not compile. */
const frames: Record<Place["kind"], (f: Framed) => ReactNode> = {
  "wall-field": WallField,
  rail: (f) => Rail(f),
  hook: Hook,
  shelf: (f) => Shelf(f),
  deck: Deck,
  drawer: Drawer,
  slots: Slots,
  arms: Arms,
  bin: Bin,
  "sheet-bay": SheetBay,
  roller: Roller,
  floor: Floor,
};

/** fronts have their address on them, not above. */
const fronts = new Set<Place["kind"]>(["drawer"]);

/** isFront tells whether all that is seen of a place is a front. */
export function isFront(p: Place): boolean {
  return fronts.has(p.kind);
}

/** frame draws a place by its kind. */
export function frame(p: Place, top: number, chosen: boolean): ReactNode {
  return frames[p.kind](framed(p, top, chosen));
}
