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
  const hit = round.places.filter((p) => p.elevation === i && x - s.offset >= p.x && x - s.offset <= p.x + p.w && z >= p.z && z <= p.z + p.h);
  return hit.find((p) => p.host !== "") ?? hit.sort((a, b) => a.w * a.h - b.w * b.h)[0];
}

/** spotIn says where in the place a thing dropped with its lower left corner at x, z would be. */
export function spotIn(round: Round, place: Place, x: number, z: number): { x: number; y: number; z: number; slot: number; level: number } {
  const s = round.elevations[place.elevation];
  const px = Math.max(0, x - (s?.offset ?? 0) - place.x);
  const pz = Math.max(0, z - place.z);
  const spot = { x: 0, y: 0, z: 0, slot: 0, level: 0 };
  switch (place.kind) {
    case "wall-field":
    case "hook":
      return { ...spot, x: px, z: pz };
    case "rail":
      return { ...spot, slot: Math.round(px / 25) };
    case "slots": {
      // Each slot has an edge among the lines; the first line is the rail itself.
      const edges = place.lines.slice(1).map((l) => (l[0] ?? 0) - place.x);
      return { ...spot, slot: Math.max(0, edges.filter((e) => e <= px + 1).length - 1) };
    }
    case "arms":
      return { ...spot, level: Math.max(0, place.lines.filter((l) => (l[1] ?? 0) - place.z <= pz + 1).length - 1) };
    default:
      return { ...spot, x: px };
  }
}
