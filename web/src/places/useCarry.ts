import { useCallback } from "react";
import { api, unwrap, type Place, type Round, type Trial } from "../api/client";
import { segmentAt } from "../stage/geometry";
import { onScreen } from "../stage/onScreen";
import { useHold, type Held } from "../stage/useHold";
import { goToMiddle } from "../stage/view";

/** Spots are whole steps of mm. */
const step = 10;

/** Hung is what is carried when a place is taken hold of, and where in it, in mm. */
export interface Hung {
  id: string;
  x: number;
  z: number;
  w: number;
  h: number;
  grip: { x: number; z: number };
}

/** Landed is a spot on a wall, in mm from its left end and from the floor. */
export interface Landed {
  area: string;
  wall: string;
  x: number;
  z: number;
}

/** Carry is a place, or the wall cabinet it is in, on its way to another spot. */
export type Carry = Held<Hung, Landed, Trial>;

/** hung is what is carried when a place is taken hold of: it, or its cabinet on the wall; undefined when it stands on the floor. */
export function hung(round: Round, p: Place): Omit<Hung, "grip"> | undefined {
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
): Landed | undefined {
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

/** useCarry follows a place from where it was taken hold of to where it is let go, asking the core on the way. */
export function useCarry(round: Round, onDrop: (what: Hung, to: Landed, answer: Trial) => void, onEnd?: (step: 1 | -1) => void) {
  const {
    held,
    press,
    lift: liftAt,
  } = useHold<Hung, Landed, Trial>({
    round,
    targetOf: (what, x, z) => landing(round, x, z, what.grip, what),
    nameOf: (t) => `${t.area} ${t.wall} ${t.x} ${t.z}`,
    ask: async (what, t) => unwrap(await api.POST("/api/v1/places/{id}/try", { params: { path: { id: what.id } }, body: { at: t } })),
    onDrop,
    hop: (what, x, z, step) => {
      // to the same height on the next wall
      const walls = round.elevations.filter((e) => !e.middle);
      const here = walls.findIndex((e) => x >= e.offset && x < e.offset + e.length);
      const to = walls[(here + step + walls.length) % walls.length];
      return to && { x: to.offset + what.grip.x + Math.min(what.w, to.length) / 4, z };
    },
    reveal: goToMiddle,
    onEnd,
  });
  const start = useCallback(
    (e: React.PointerEvent, place: Place) => {
      const what = hung(round, place);
      const p = onScreen(round)?.toRound(e.clientX, e.clientY);
      const s = round.elevations[place.elevation];
      if (what && p && s) press(e, { ...what, grip: { x: p.x - s.offset - what.x, z: p.z - what.z } });
    },
    [round, press],
  );
  const lift = useCallback(
    (place: Place) => {
      const what = hung(round, place);
      const s = round.elevations[place.elevation];
      if (what && s) liftAt({ ...what, grip: { x: what.w / 2, z: what.h / 2 } }, s.offset + what.x + what.w / 2, what.z + what.h / 2);
      return what !== undefined;
    },
    [round, liftAt],
  );
  return { carry: held, start, lift };
}
