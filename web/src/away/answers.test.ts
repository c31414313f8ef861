import { describe, expect, it } from "vitest";
import { found, kept } from "./answers";

const round = {
  items: [
    { id: "block-plane", name: "Block plane", place: "B1", count: 1 },
    { id: "jack", name: "Jack plane", place: "B1", count: 1 },
    { id: "clamps", name: "F-clamps, 300 mm", place: "D2", count: 6 },
    { id: "pate", name: "Pâté tin of screws", place: "K1-3", count: 2 },
  ],
  places: [
    { id: "B1", name: "Plane till" },
    { id: "D2", name: "" },
    { id: "K1-3", name: "Third drawer" },
  ],
};
const names = (q: string) => found(round, q).map((f) => f.name);

describe("what is found while the shop's machine is away", () => {
  it("is what every word begins, in any order, without accents and plurals", () => {
    expect(names("plane")).toEqual(["Plane till", "Block plane", "Jack plane"]);
    expect(names("planes block")).toEqual(["Block plane"]);
    expect(names("pate")).toEqual(["Pâté tin of screws"]);
    expect(names("clamps 300")).toEqual(["F-clamps, 300 mm"]);
    expect(names("k1")).toEqual(["Pâté tin of screws", "Third drawer"]);
    expect(names("saw")).toEqual([]);
    expect(names("  ")).toEqual([]);
  });
  it("says where", () => {
    expect(found(round, "jack")[0]).toMatchObject({ kind: "item", address: "B1", where: "Plane till", sure: true });
    expect(found(round, "f-clamps")[0]).toMatchObject({ count: 6, address: "D2" });
  });
});

describe("what is kept", () => {
  it("are answers one needs with the thing in the hand, and nothing that goes on or is for makers", () => {
    for (const path of ["/api/v1/round", "/shops/shed/api/v1/find", "/api/v1/places/K1-3/page", "/api/v1/out", "/api/v1/look"])
      expect(kept(path), path).toBe(true);
    for (const path of ["/api/v1/changes/stream", "/api/v1/round/since/4", "/api/v1/devices", "/api/v1/about", "/api/v1/shop", "/enter"])
      expect(kept(path), path).toBe(false);
  });
});
