import type { Place, Round, Elevation } from "../api/client";

/** Room above the highest wall and below the floor on the stage, in mm. */
export const above = 120;
export const below = 260;

/** roundSize is the whole drawing in mm. */
export function roundSize(round: Round): { width: number; height: number; top: number } {
  const last = round.elevations[round.elevations.length - 1];
  const top = Math.max(...round.elevations.flatMap((s) => s.profile.map((p) => p[1] ?? 0))) + above;
  return { width: last ? last.offset + last.length : 1000, height: top + below, top };
}

/** segmentAt finds the elevation under x of the whole round. */
export function segmentAt(round: Round, x: number): number {
  return round.elevations.findIndex((s) => x >= s.offset && x < s.offset + s.length);
}

/** topAt is the height of a elevation's top edge at x. */
export function topAt(s: Elevation, x: number): number {
  for (let i = 1; i < s.profile.length; i++) {
    const [x0, z0] = s.profile[i - 1] as [number, number];
    const [x1, z1] = s.profile[i] as [number, number];
    if (x <= x1 || i === s.profile.length - 1) return z0 + ((z1 - z0) * Math.min(Math.max(x - x0, 0), x1 - x0)) / (x1 - x0 || 1);
  }
  return 0;
}

/** placeAt finds the place under a spot of the round; what is in front wins. */
export function placeAt(round: Round, x: number, z: number): Place | undefined {
  const i = segmentAt(round, x);
  const s = round.elevations[i];
  if (!s) return undefined;
  const hit = round.places.filter(
    (p) => p.elevation === i && x - s.offset >= p.x && x - s.offset <= p.x + p.w && z >= p.z && z <= p.z + p.h,
  );
  return hit.find((p) => p.host !== "") ?? hit.sort((a, b) => a.w * a.h - b.w * b.h)[0];
}

/** within gives a point of the round along and up the front of a place. */
export function within(round: Round, place: Place, x: number, z: number): [number, number] {
  return [Math.max(0, x - (round.elevations[place.elevation]?.offset ?? 0) - place.x), Math.max(0, z - place.z)];
}
