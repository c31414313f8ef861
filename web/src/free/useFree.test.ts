import { describe, expect, it } from "vitest";
import type { FreeWall, Region } from "../api/client";
import { depthColour, leading, m2ByDepth } from "./useFree";

const limit = { kind: "corner", by: "", says: "" };
const region = (x: number, z: number, w: number, h: number): Region => ({
  x,
  z,
  w,
  h,
  depth: 300,
  area: (w * h) / 1e6,
  band: "easy",
  left: limit,
  right: limit,
  below: limit,
  above: limit,
  out: limit,
});
const wall = (regions: Region[]): FreeWall => ({
  area: "main",
  id: "A",
  claimed: true,
  gross: 10,
  usable: 8,
  free: 5,
  regions,
  patches: [],
});

describe("free space", () => {
  it("draws the largest regions that hardly overlap, each under its own number", () => {
    const w = wall([
      region(0, 0, 2000, 1000),
      region(100, 0, 1800, 1000),
      region(3000, 0, 500, 500),
      region(1900, 0, 900, 900),
      region(5000, 0, 200, 200),
    ]);
    expect(leading(w).map((r) => r.index)).toEqual([0, 2, 3]);
    expect(leading(w, 1).map((r) => r.index)).toEqual([0]);
  });
  it("tints by depth and leaves what is too shallow bare", () => {
    expect(depthColour(49, "metric")).toBeUndefined();
    expect(depthColour(50, "imperial")).toBeUndefined();
    expect(depthColour(50, "metric")).not.toBe(depthColour(150, "metric"));
    expect(depthColour(600, "metric")).toBe(depthColour(2000, "metric"));
  });
  it("sums every patch in just one step", () => {
    const patch = (depth: number) => ({ x: 0, z: 0, w: 1000, h: 1000, depth, limit });
    expect(m2ByDepth([{ ...wall([]), patches: [0, 60, 150, 299, 300, 800].map(patch) }], "metric")).toEqual([1, 1, 2, 1]);
  });
});
