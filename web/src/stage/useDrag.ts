import { useCallback } from "react";
import { api, unwrap, type Answer, type Item, type Round } from "../api/client";
import { placeAt, within } from "./geometry";
import { useHold, type Held } from "./useHold";
import { goToMiddle } from "./view";

/** Over is the spot of a place that a thing is held over, in mm of the round. */
export interface Over {
  place: string;
  x: number;
  z: number;
}

/** Carried is a thing on its way to another place, with the live answer of the core. */
export type Carried = Held<Item, Over, Answer>;

/** useDrag follows a thing from where it was taken hold of to where it is let go. */
export function useDrag(round: Round, onDrop: (item: Item, answer: Answer) => void, onEnd?: (step: 1 | -1) => void) {
  const hold = useHold<Item, Over, Answer>({
    round,
    targetOf: (_, x, z) => {
      const place = placeAt(round, x, z);
      return place && { place: place.id, x, z };
    },
    nameOf: (t) => t.place,
    ask: async (item, t) => {
      const place = round.places.find((p) => p.id === t.place);
      return unwrap(
        await api.POST("/api/v1/items/{id}/try", {
          params: { path: { id: item.id } },
          body: { place: t.place, ...(place && { at: within(round, place, t.x, t.z) }) },
        }),
      );
    },
    onDrop: (item, _, answer) => onDrop(item, answer),
    hop: (_, x, z, step) => nextPlace(round, x, z, step),
    reveal: goToMiddle,
    onEnd,
  });
  const { lift: liftAt } = hold;
  /** lift takes hold of a thing by keyboard: where it lives, or in front of what is on screen. */
  const lift = useCallback(
    (item: Item, middle: number) => {
      const s = round.elevations[item.elevation];
      const q = item.pieces[0];
      if (s && q) liftAt(item, s.offset + q.x + q.w / 2, q.z + q.h / 2);
      else {
        const first = nextPlace(round, middle, 0, 1);
        if (first) liftAt(item, first.x, first.z);
      }
    },
    [round, liftAt],
  );
  return { drag: hold.held, press: hold.press, lift };
}

/** nextPlace is the middle of the place after, or before, a spot of the round. */
export function nextPlace(round: Round, x: number, z: number, step: 1 | -1): { x: number; z: number } | undefined {
  const middles = round.places
    .filter((p) => p.elevation >= 0)
    .map((p) => ({ id: p.id, x: (round.elevations[p.elevation]?.offset ?? 0) + p.x + p.w / 2, z: p.z + p.h / 2 }))
    .sort((a, b) => a.x - b.x || b.z - a.z);
  const here = placeAt(round, x, z)?.id;
  const at = middles.findIndex((m) => m.id === here);
  if (at >= 0) return middles[(at + step + middles.length) % middles.length];
  return step > 0 ? (middles.find((m) => m.x > x) ?? middles[0]) : (middles.findLast((m) => m.x < x) ?? middles.at(-1));
}
