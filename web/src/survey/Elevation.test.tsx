import { describe, expect, it, vi } from "vitest";
import type { FreeWall, Elevation as WallElevation, WallNotes } from "../api/client";
import { RegionParts } from "../free/FreeSheet";
import { show } from "../testing";
import { Elevation } from "./Elevation";

const wall = {
  id: "A",
  area: "main",
  title: "Wall A",
  middle: false,
  claimed: true,
  surface: "boards",
  offset: 0,
  length: 4600,
  profile: [
    [0, 2400],
    [4600, 3100],
  ],
  studs: [300, 900],
  reach: [],
  features: [{ id: "A-window", kind: "window", name: "window", x: 500, z: 900, w: 1000, h: 800, shape: "", hinge: "" }],
} as unknown as WallElevation;
const notes = { length: { text: "4600" }, points: [{ assumed: false }, { assumed: false }] } as unknown as WallNotes;
const limit = (says: string) => ({ kind: "feature", by: "x", says });
const free: FreeWall = {
  area: "main",
  id: "A",
  claimed: true,
  gross: 12.65,
  usable: 8,
  free: 5,
  patches: [
    { x: 0, z: 0, w: 500, h: 2400, depth: 700, limit: limit("a way") },
    { x: 500, z: 900, w: 1000, h: 800, depth: 0, limit: limit("window") },
  ],
  regions: [
    {
      x: 0,
      z: 0,
      w: 500,
      h: 2400,
      depth: 700,
      area: 1.2,
      band: "kneel to step",
      left: limit("corner to wall D"),
      right: limit("window"),
      below: limit("the floor"),
      above: limit("top of the wall"),
      out: limit("side aisle of 600 mm to Bench"),
    },
  ],
};

const drawn = (p: Partial<Parameters<typeof Elevation>[0]> = {}) =>
  show(<Elevation wall={wall} notes={notes} units="metric" onRegion={vi.fn()} aim="" {...p} />);
const words = (box: HTMLElement) => [...box.querySelectorAll("text")].map((t) => t.textContent?.replace(/\s/g, ""));

describe("the elevation of a wall", () => {
  it("has its length and, where it slopes, both heights", async () => {
    const box = await drawn();
    expect(words(box)).toEqual(expect.arrayContaining(["4600", "2400", "3100"]));
    const level = await drawn({
      wall: {
        ...wall,
        profile: [
          [0, 2400],
          [4600, 2400],
        ],
      },
    });
    expect(words(level).filter((w) => w === "2400")).toHaveLength(1);
  });
  it("slants what is not measured yet", async () => {
    const box = await drawn({ notes: { length: { text: "" }, points: [{ assumed: true }] } as unknown as WallNotes });
    const text = [...box.querySelectorAll("text")].find((t) => t.textContent?.replace(/\s/g, "") === "4600");
    expect(text?.getAttribute("font-style")).toBe("italic");
  });
  it("dimensions the feature whose number is being typed", async () => {
    expect((await drawn()).querySelector("[data-testid=dimensioned]")).toBeNull();
    const box = await drawn({ aim: "walls/A/features/A-window/x" });
    const said = [...(box.querySelector("[data-testid=dimensioned]")?.querySelectorAll("text") ?? [])].map((t) =>
      t.textContent?.replace(/\s/g, ""),
    );
    expect(said).toEqual(["500", "1000×800", "900"]);
  });
  it("tints free wall by its depth and tells which region was pressed", async () => {
    const onRegion = vi.fn();
    const box = await drawn({ free, onRegion });
    const tinted = [...box.querySelectorAll("[data-free=A] rect")].filter((r) => r.getAttribute("fill")?.startsWith("var(--free"));
    expect(tinted).toHaveLength(1);
    box.querySelector("[data-region='0']")?.dispatchEvent(new MouseEvent("click", { bubbles: true }));
    expect(onRegion).toHaveBeenCalledWith(0);
    expect((await drawn({ free, region: 0 })).querySelector("[data-testid=chosen-region]")).not.toBeNull();
  });
});

describe("a free rectangle", () => {
  it("says on five sides what it stops at", async () => {
    const region = free.regions[0];
    if (!region) throw new Error("no region");
    const box = await show(<RegionParts region={region} units="metric" />);
    for (const says of ["corner to wall D", "window", "the floor", "top of the wall", "side aisle of 600 mm to Bench", "kneel to step"])
      expect(box.textContent).toContain(says);
    expect(box.textContent).toContain("500 × 2\u2009400 mm");
  });
});
