import type { Round } from "../api/client";
import { roundSize } from "./geometry";

/** OnScreen is the round as it lies on the screen: how to get from one to the other, and what of it is in sight. */
export interface OnScreen {
  /** px per mm */
  scale: number;
  /** what scrolls the round sideways */
  scroller: HTMLElement;
  /** the part of the screen it is seen in */
  sight: DOMRect;
  /** a spot of the round in mm under a point of the screen */
  toRound: (x: number, y: number) => { x: number; z: number };
  /** the point of the screen a spot of the round is at */
  toScreen: (x: number, z: number) => { x: number; y: number };
}

/** onScreen finds the round that is drawn; nothing on screens without it. */
export function onScreen(round: Round): OnScreen | undefined {
  const svg = document.querySelector<SVGSVGElement>("[data-testid=round]");
  const scroller = svg?.parentElement;
  const scale = Number(svg?.dataset.scale ?? 0);
  if (!svg || !scroller || !(scale > 0)) return undefined;
  const from = Number(svg.dataset.from ?? 0);
  const box = svg.getBoundingClientRect();
  const { top } = roundSize(round);
  return {
    scale,
    scroller,
    sight: scroller.getBoundingClientRect(),
    toRound: (x, y) => ({ x: from + (x - box.left) / scale, z: top - (y - box.top) / scale }),
    toScreen: (x, z) => ({ x: box.left + (x - from) * scale, y: box.top + (top - z) * scale }),
  };
}
