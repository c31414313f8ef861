import { useCallback, useEffect, useRef, useState } from "react";
import { api, unwrap, type Place, type Round, type Trial } from "../api/client";
import { roundSize, segmentAt } from "../stage/geometry";
import type { Proposed } from "./Places";

/** Carry is a place, or the wall cabinet it is in, on its way to another spot. */
export interface Carry extends Proposed {
  id: string;
  /** the pointer on the screen */
  at: { x: number; y: number };
  answer?: Trial;
}

/** A press becomes a drag beyond this many pixels; spots are whole steps of mm. */
const threshold = 6;
const step = 10;

/** hung is what is carried when a place is taken hold of: it, or its cabinet on the wall; undefined when it stands on the floor. */
export function hung(round: Round, p: Place): { id: string; x: number; z: number; w: number; h: number } | undefined {
  if (round.elevations[p.elevation]?.middle !== false) return undefined;
  if (p.host === "") return p;
  const t = round.things.find((t) => t.id === p.host);
  if (!t || t.station || t.floor || t.movable || t.kind === "tote") return undefined;
  return { id: t.id, x: t.x, z: t.z, w: t.w, h: t.tall };
}

/** landing is the spot on a wall under the pointer, held on the wall; grip is where the thing was taken hold of. */
export function landing(
  round: Round,
  x: number,
  z: number,
  grip: { x: number; z: number },
  what: { w: number; h: number },
): { area: string; wall: string; x: number; z: number } | undefined {
  const s = round.elevations[segmentAt(round, x)];
  if (!s || s.middle) return undefined;
  const snap = (v: number) => Math.round(v / step) * step;
  return {
    area: s.area,
    wall: s.id,
    x: Math.min(Math.max(0, snap(x - s.offset - grip.x)), Math.max(0, s.length - what.w)),
    z: Math.max(0, snap(z - grip.z)),
  };
}

/** useCarry follows a place from where it was pressed to where it is let go, asking the core on the way. */
export function useCarry(round: Round, onDrop: (c: Carry) => void) {
  const [carry, setCarry] = useState<Carry>();
  const pressed = useRef<
    { what: NonNullable<ReturnType<typeof hung>>; x: number; y: number; grip: { x: number; z: number }; moving: boolean } | undefined
  >(undefined);
  const wanted = useRef<Carry | undefined>(undefined);
  const asking = useRef(false);
  const last = useRef<Carry | undefined>(undefined);
  const drop = useRef(onDrop);
  useEffect(() => {
    drop.current = onDrop;
  });

  const point = useCallback(
    (e: { clientX: number; clientY: number }) => {
      const svg = document.querySelector<SVGSVGElement>("[data-testid=round]");
      const box = svg?.getBoundingClientRect();
      const scale = Number(svg?.dataset.scale ?? 0);
      return box && scale > 0 ? { x: (e.clientX - box.left) / scale, z: roundSize(round).top - (e.clientY - box.top) / scale } : undefined;
    },
    [round],
  );

  // One question at a time; while it is out, only the newest spot is remembered.
  const ask = useCallback(async () => {
    if (asking.current) return;
    asking.current = true;
    while (wanted.current) {
      const c = wanted.current;
      wanted.current = undefined;
      const answer = await api
        .POST("/api/v1/places/{id}/try", { params: { path: { id: c.id } }, body: { at: { area: c.area, wall: c.wall, x: c.x, z: c.z } } })
        .then(unwrap)
        .catch(() => undefined);
      const now = last.current;
      if (now && now.id === c.id && now.wall === c.wall && now.x === c.x && now.z === c.z) {
        last.current = { ...now, answer };
        setCarry(last.current);
      }
    }
    asking.current = false;
  }, []);

  const start = useCallback(
    (e: React.PointerEvent, place: Place) => {
      const what = hung(round, place);
      const p = point(e);
      const s = round.elevations[place.elevation];
      if (e.button !== 0 || !what || !p || !s) return;
      e.preventDefault();
      pressed.current = { what, x: e.clientX, y: e.clientY, grip: { x: p.x - s.offset - what.x, z: p.z - what.z }, moving: false };
    },
    [round, point],
  );

  useEffect(() => {
    const move = (e: PointerEvent) => {
      const p = pressed.current;
      if (!p || (!p.moving && Math.hypot(e.clientX - p.x, e.clientY - p.y) < threshold)) return;
      p.moving = true;
      const at = point(e);
      const to = at && landing(round, at.x, at.z, p.grip, p.what);
      if (!to) return;
      const same = last.current && last.current.wall === to.wall && last.current.x === to.x && last.current.z === to.z;
      last.current = {
        id: p.what.id,
        w: p.what.w,
        h: p.what.h,
        ...to,
        at: { x: e.clientX, y: e.clientY },
        answer: same ? last.current?.answer : undefined,
      };
      setCarry(last.current);
      if (!same) {
        wanted.current = last.current;
        void ask();
      }
    };
    const end = (e: Event) => {
      const p = pressed.current;
      pressed.current = undefined;
      const c = last.current;
      last.current = undefined;
      setCarry(undefined);
      if (p?.moving && c && e.type === "pointerup") drop.current(c);
    };
    const key = (e: KeyboardEvent) => {
      if (e.key === "Escape" && pressed.current?.moving) {
        e.stopPropagation();
        end(e);
      }
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
    window.addEventListener("keydown", key, true);
    return () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", end);
      window.removeEventListener("pointercancel", end);
      window.removeEventListener("keydown", key, true);
    };
  }, [round, point, ask]);

  return { carry, start };
}
