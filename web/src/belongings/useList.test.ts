import { describe, expect, it } from "vitest";
import { item } from "../testing";
import { renderHook } from "@testing-library/react";
import { grouped, totals } from "./useList";
import { useThings } from "./useThings";

const list = [
  item({ id: "a", name: "Mallet", kind: "mallet", kg: 0.7, used_at: ["bench"], family: "", place: "" }),
  item({ id: "b", name: "Jack plane", kg: 2.3, used_at: ["bench", "carving"], family: "planes", flags: ["sharp", "rust"], place: "B1" }),
  item({ id: "c", name: "Block plane", kg: 0.7, used_at: ["lathe"], family: "planes", assumed: ["kg"], place: "B1" }),
];
const ids = (l: typeof list) => l.map((i) => i.id).join("");

describe("the list of belongings", () => {
  it("is sorted by any column, what has nothing there last, equals by name", () => {
    const sorted = (by: string, down: boolean) =>
      ids(renderHook(() => useThings(list, { by, down }, ["name", "kg"])).result.current.things);
    expect(sorted("name", false)).toBe("cba");
    expect(sorted("kg", true)).toBe("bca");
    expect(sorted("family", false)).toBe("cba");
    expect(sorted("place", true)).toBe("cba");
    expect(renderHook(() => useThings(list, { by: "name", down: false }, ["kg", "name"])).result.current.columns.map((c) => c.id)).toEqual([
      "name",
      "kg",
    ]);
  });
  it("sums pieces, weight and the wall that what can hang would take", () => {
    const t = totals([
      item({ id: "x", count: 4, kg: 0.5, w: 100, h: 200, d: 50, hold: ["hang"] }),
      item({ id: "y", count: 1, kg: 1, w: 1000, h: 1000, d: 100, hold: ["stand"] }),
    ]);
    expect(t).toEqual({ lines: 2, pieces: 5, kg: 3, wall: 0.08, litres: 104 });
  });
  it("is grouped under heads with their sums; what is in two groups is under both, what is in none comes last", () => {
    const read = (by: "family" | "used_at" | "", folded?: Set<string>) =>
      grouped(list, by, folded).map((l) => (l.item ? l.item.id + (l.nth > 0 ? "again" : "") : `${l.group} ${l.things}`));
    expect(read("")).toEqual(["a", "b", "c"]);
    expect(read("family")).toEqual(["planes 2", "b", "c", "no family 1", "a"]);
    expect(read("used_at")).toEqual(["bench 2", "a", "b", "carving 1", "bagain", "lathe 1", "c"]);
    expect(read("family", new Set(["planes"]))).toEqual(["planes 2", "no family 1", "a"]);
  });
});
