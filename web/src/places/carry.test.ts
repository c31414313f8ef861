import { expect, test } from "vitest";
import type { Place, Round } from "../api/client";
import { hung, landing } from "./useCarry";

const elevation = (id: string, offset: number, length: number, middle = false) => ({
  id,
  area: "main",
  offset,
  length,
  middle,
  profile: [
    [0, 2500],
    [length, 2500],
  ],
});
const round = {
  elevations: [elevation("A", 0, 4000), elevation("B", 4000, 7000), elevation("", 11000, 3000, true)],
  things: [
    { id: "K4", elevation: 1, x: 5650, z: 1350, w: 900, tall: 800, movable: false, station: false },
    { id: "K2", elevation: 0, x: 700, z: 0, w: 700, tall: 1100, movable: false, station: false, floor: [700, 4150] },
    { id: "bench", elevation: 1, x: 1500, z: 0, w: 2000, tall: 880, movable: false, station: true },
  ],
} as unknown as Round;
const place = (p: object) => ({ elevation: 1, host: "", x: 800, z: 1000, w: 2000, h: 1100, ...p }) as Place;

test("a place on a wall is carried by itself, a shelf of a wall cabinet with its cabinet, what stands on the floor not at all", () => {
  expect(hung(round, place({ id: "B1" }))).toMatchObject({ id: "B1", x: 800 });
  expect(hung(round, place({ id: "K4-1", host: "K4" }))).toEqual({ id: "K4", x: 5650, z: 1350, w: 900, h: 800 });
  expect(hung(round, place({ id: "K2-1", host: "K2" }))).toBeUndefined();
  expect(hung(round, place({ id: "N1", host: "bench" }))).toBeUndefined();
  expect(hung(round, place({ id: "E1", elevation: 2 }))).toBeUndefined();
});

test("it lands in whole steps, stays on its wall and not under the floor", () => {
  const what = { w: 2000, h: 1100 };
  expect(landing(round, 4000 + 1503, 1204, { x: 500, z: 200 }, what)).toEqual({ area: "main", wall: "B", x: 1000, z: 1000 });
  expect(landing(round, 4000 + 6990, 1200, { x: 100, z: 200 }, what)).toMatchObject({ wall: "B", x: 5000 });
  expect(landing(round, 20, 100, { x: 500, z: 200 }, what)).toMatchObject({ wall: "A", x: 0, z: 0 });
  expect(landing(round, 12000, 1200, { x: 0, z: 0 }, what)).toBeUndefined();
});
