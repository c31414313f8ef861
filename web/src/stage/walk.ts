import type { Item, Place, Round } from "../api/client";
import type { Selected } from "../app/shown";

/** stepFrom is what an arrow key goes to from what is selected: along the things or the places of the round, into a place and out of it, to the next wall. */
export function stepFrom(round: Round, at: Selected | undefined, key: string): Selected | undefined {
  const item = at?.kind === "item" ? round.items.find((i) => i.id === at.id) : undefined;
  const place = at?.kind === "place" ? round.places.find((p) => p.id === at.id) : undefined;
  switch (key) {
    case "ArrowRight":
    case "ArrowLeft": {
      const step = key === "ArrowRight" ? 1 : -1;
      return place ? ofPlace(next(placesAlong(round), place, step)) : ofItem(next(thingsAlong(round), item, step));
    }
    case "ArrowUp":
      return item && ofPlace(round.places.find((p) => p.id === item.place && p.elevation >= 0));
    case "ArrowDown":
      return place && ofItem(thingsAlong(round).find((i) => i.place === place.id));
    case "PageDown":
    case "PageUp": {
      const all = placesAlong(round);
      const here = item?.elevation ?? place?.elevation ?? -1;
      const walls = [...new Set(all.map((p) => p.elevation))];
      const to = key === "PageDown" ? walls.find((e) => e > here) : walls.findLast((e) => e < here);
      return ofPlace(all.find((p) => p.elevation === to));
    }
    default:
      return undefined;
  }
}

const ofItem = (i: Item | undefined): Selected | undefined => i && { kind: "item", id: i.id };
const ofPlace = (p: Place | undefined): Selected | undefined => p && { kind: "place", id: p.id };

function next<T extends { id: string }>(all: T[], at: T | undefined, step: 1 | -1): T | undefined {
  const i = at ? all.findIndex((x) => x.id === at.id) : -1;
  return i < 0 ? all.at(step > 0 ? 0 : -1) : all[i + step];
}

/** thingsAlong are the things in sight as they hang from left to right. */
function thingsAlong(round: Round): Item[] {
  const left = (i: Item) => (round.elevations[i.elevation]?.offset ?? 0) + (i.pieces[0]?.x ?? 0);
  return round.items.filter((i) => i.elevation >= 0 && i.pieces.length > 0).sort((a, b) => left(a) - left(b) || a.id.localeCompare(b.id));
}

/** placesAlong are the places from left to right, from above where several are in one line. */
function placesAlong(round: Round): Place[] {
  const left = (p: Place) => (round.elevations[p.elevation]?.offset ?? 0) + p.x;
  return round.places.filter((p) => p.elevation >= 0).sort((a, b) => left(a) - left(b) || b.z - a.z);
}
