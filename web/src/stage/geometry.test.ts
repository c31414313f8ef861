import { describe, expect, it } from "vitest";
import type { Place, Round, Elevation } from "../api/client";
import { placeAt, roundSize, segmentAt, topAt, within } from "./geometry";

const wall = (id: string, offset: number, length: number, profile: [number, number][]) =>
  ({ id, offset, length, profile, middle: false }) as unknown as Elevation;
const place = (p: Partial<Place>) => ({ host: "", lines: [], elevation: 0, ...p }) as Place;
const round = {
  elevations: [
    wall("A", 0, 4000, [
      [0, 2400],
      [4000, 3000],
    ]),
    wall("B", 4000, 5000, [
      [0, 3000],
      [5000, 3000],
    ]),
  ],
  places: [
    place({ id: "B1", kind: "wall-field", elevation: 1, x: 500, z: 900, w: 2000, h: 1000 }),
    place({ id: "N1", kind: "drawer", elevation: 1, x: 600, z: 950, w: 500, h: 100, host: "bench" }),
    place({
      id: "D2",
      kind: "slots",
      elevation: 0,
      x: 100,
      z: 1000,
      w: 150,
      h: 800,
      lines: [
        [100, 1800, 250, 1800],
        [100, 1800, 100, 1760],
        [150, 1800, 150, 1760],
        [200, 1800, 200, 1760],
        [250, 1800, 250, 1760],
      ],
    }),
  ],
} as unknown as Round;

describe("the round as a drawing", () => {
  it("is as wide as its walls and as high as the highest", () => {
    expect(roundSize(round)).toMatchObject({ width: 9000, top: 3120 });
  });
  it("knows which wall is under a spot", () => {
    expect(segmentAt(round, 3999)).toBe(0);
    expect(segmentAt(round, 4000)).toBe(1);
    expect(segmentAt(round, 9500)).toBe(-1);
  });
  it("follows a sloping top", () => {
    expect(topAt(round.elevations[0] as Elevation, 2000)).toBe(2700);
  });
  it("prefers what stands in front", () => {
    expect(placeAt(round, 4700, 1000)?.id).toBe("N1");
    expect(placeAt(round, 4700, 1500)?.id).toBe("B1");
    expect(placeAt(round, 8000, 1500)).toBeUndefined();
  });
  it("measures a drop along and up the front of the place", () => {
    expect(within(round, round.places[0] as Place, 4600, 1100)).toEqual([100, 200]);
    expect(within(round, round.places[2] as Place, 0, 0)).toEqual([0, 0]);
  });
});
