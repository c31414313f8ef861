import { useSyncExternalStore } from "react";

const narrow = "(max-width: 767px)";

function watch(tell: () => void): () => void {
  const list = window.matchMedia(narrow);
  list.addEventListener("change", tell);
  return () => list.removeEventListener("change", tell);
}

/** usePhone is whether the window is as narrow as a phone, or as one at 200 % zoom. */
export function usePhone(): boolean {
  return useSyncExternalStore(watch, () => window.matchMedia(narrow).matches);
}
