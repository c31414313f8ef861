import type { Round, RoundChange } from "../api/client";

/** merged is the round that a change makes of an earlier one. What is as before stays the same object, so that what shows it need not be drawn again. */
export function merged(old: Round, c: RoundChange): Round {
  return {
    ...old,
    ...c.head,
    elevations: c.elevations ?? old.elevations,
    things: c.things ?? old.things,
    plan: {
      ...old.plan,
      rooms: c.rooms ?? old.plan.rooms,
      things: c.footprints ?? old.plan.things,
      stations: put(old.plan.stations, c.stations),
    },
    places: put(old.places, c.places),
    items: put(old.items, c.items),
    wished: put(old.wished, c.wished),
  };
}

function put<T extends { id: string }>(old: T[], change: { put: T[]; order?: string[] | null }): T[] {
  if (change.put.length === 0 && !change.order) return old;
  const now = new Map(old.map((x) => [x.id, x]));
  for (const x of change.put) now.set(x.id, x);
  const order = change.order ?? old.map((x) => x.id);
  return order.map((id) => now.get(id)).filter((x) => x !== undefined);
}
