import { useCallback, useEffect, useRef, useState } from "react";
import { api, unwrap, type Answer, type Item, type Round } from "../api/client";
import { placeAt, roundSize, within } from "./geometry";

/** Drag of a thing over the stage, with the live answer of the core. */
export interface Drag {
  item?: Item;
  /** the pointer on the screen */
  at: { x: number; y: number };
  /** px per mm */
  scale: number;
  /** size of what is drawn under the pointer in mm: all pieces in one row */
  block: { w: number; h: number };
  target?: { place: string; answer?: Answer };
}

const still: Drag = { at: { x: 0, y: 0 }, scale: 0.15, block: { w: 0, h: 0 } };

/** A press becomes a drag beyond this many pixels. */
const threshold = 5;

/** useDrag follows a thing from where it was pressed to where it is dropped. */
export function useDrag(round: Round | undefined, onPress: (item: Item) => void, onDrop: (item: Item, answer: Answer) => void) {
  const [drag, setDrag] = useState<Drag>(still);
  const pressed = useRef<{ item: Item; x: number; y: number; scale: number; moving: boolean } | undefined>(undefined);
  const asking = useRef(false);
  const wanted = useRef<{ item: Item; place: string; x: number; z: number } | undefined>(undefined);
  const latest = useRef<Answer | undefined>(undefined);
  const drop = useRef(onDrop);
  const answered = useRef<() => void>(() => undefined);

  useEffect(() => {
    drop.current = onDrop;
  });

  // One question at a time; while it is out, only the newest wish is remembered.
  const ask = useCallback(async () => {
    if (asking.current || !round) return;
    asking.current = true;
    while (wanted.current) {
      const w = wanted.current;
      wanted.current = undefined;
      const place = round.places.find((p) => p.id === w.place);
      if (!place) break;
      const answer = await api
        .POST("/api/v1/items/{id}/try", {
          params: { path: { id: w.item.id } },
          body: { place: w.place, at: within(round, place, w.x, w.z) },
        })
        .then(unwrap)
        .catch(() => undefined);
      latest.current = answer;
      setDrag((d) => (d.item && d.target?.place === w.place ? { ...d, target: { place: w.place, answer } } : d));
    }
    asking.current = false;
    answered.current();
  }, [round]);

  const start = useCallback(
    (e: React.PointerEvent, item: Item, scale: number) => {
      if (e.button !== 0) return;
      e.preventDefault(); // or the second drag becomes a native one
      pressed.current = { item, x: e.clientX, y: e.clientY, scale, moving: false };
      onPress(item);
    },
    [onPress],
  );

  useEffect(() => {
    if (!round) return;
    const size = roundSize(round);
    const move = (e: PointerEvent) => {
      const p = pressed.current;
      if (!p) return;
      if (!p.moving && Math.hypot(e.clientX - p.x, e.clientY - p.y) < threshold) return;
      p.moving = true;
      const svg = document.querySelector<SVGSVGElement>("[data-testid=round]");
      const scale = Number(svg?.dataset.scale ?? p.scale);
      const item = p.item;
      const gap = 20;
      const block = { w: item.count * item.w + (item.count - 1) * gap, h: item.h };
      const next: Drag = { item, at: { x: e.clientX, y: e.clientY }, scale, block };
      const box = svg?.getBoundingClientRect();
      const visible = svg?.parentElement?.getBoundingClientRect();
      if (
        box &&
        visible &&
        e.clientX >= visible.left &&
        e.clientX <= visible.right &&
        e.clientY >= visible.top &&
        e.clientY <= visible.bottom
      ) {
        const x = (e.clientX - box.left) / scale;
        const z = size.top - (e.clientY - box.top) / scale;
        const place = placeAt(round, x, z);
        if (place) {
          wanted.current = { item, place: place.id, x, z };
          next.target = { place: place.id };
          void ask();
        }
      }
      setDrag((d) => {
        if (next.target && d.target?.place === next.target.place) next.target.answer = d.target.answer;
        else latest.current = undefined;
        return next;
      });
    };
    const end = (e: PointerEvent) => {
      const p = pressed.current;
      pressed.current = undefined;
      if (!p?.moving) return;
      const finish = () => {
        answered.current = () => undefined;
        setDrag(still);
        if (latest.current && e.type === "pointerup") drop.current(p.item, latest.current);
        latest.current = undefined;
      };
      // The last question may still be out; its answer counts.
      if (asking.current) answered.current = finish;
      else finish();
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
    return () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", end);
      window.removeEventListener("pointercancel", end);
    };
  }, [round, ask]);

  return { drag, start };
}
