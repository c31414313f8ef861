import { useSyncExternalStore } from "react";

/** View is the part of the round on screen, in mm, and where it was asked to go. It changes with every frame of scrolling, so it is kept outside of React. */
export interface View {
  from: number;
  to: number;
  goal?: number;
  /** counts what was asked for */
  stamp: number;
  jump: boolean;
}

let view: View = { from: 0, to: 1, stamp: 0, jump: false };
const heard = new Set<() => void>();

function put(next: View) {
  view = next;
  for (const tell of heard) tell();
}

/** seeView is the view as it is now. */
export const seeView = (): View => view;

/** setView says what is on screen. */
export function setView(from: number, to: number) {
  if (view.from !== from || view.to !== to) put({ ...view, from, to });
}

/** goTo asks for a spot of the round at the left edge of the screen; jump without rolling there. */
export function goTo(x: number, jump = false) {
  put({ ...view, goal: Math.max(0, x), stamp: view.stamp + 1, jump });
}

/** goToMiddle asks for a spot of the round in the middle of the screen. */
export const goToMiddle = (x: number) => goTo(x - (view.to - view.from) / 2);

/** middle is the spot of the round in the middle of the screen. */
export const middle = () => (view.from + view.to) / 2;

/** watchView calls back at every change. */
export function watchView(tell: () => void): () => void {
  heard.add(tell);
  return () => heard.delete(tell);
}

/** useView is what one makes of the view; it renders again only when that is something else. */
export function useView<T extends string | number | boolean | undefined>(make: (v: View) => T): T {
  return useSyncExternalStore(watchView, () => make(view));
}
