import { useLayoutEffect, useRef, useState } from "react";

/** useBox is the size of an element on the screen, as it changes. */
export function useBox<T extends HTMLElement>(): [React.RefObject<T | null>, { w: number; h: number }] {
  const ref = useRef<T>(null);
  const [box, setBox] = useState({ w: 0, h: 0 });
  useLayoutEffect(() => {
    const e = ref.current;
    if (!e) return;
    const read = () => setBox({ w: e.clientWidth, h: e.clientHeight });
    read();
    const watch = new ResizeObserver(read);
    watch.observe(e);
    return () => watch.disconnect();
  }, []);
  return [ref, box];
}
