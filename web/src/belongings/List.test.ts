import { describe, expect, it } from "vitest";
import { item } from "../testing";
import { said } from "./Row";
import { columns } from "./useList";

const cell = (id: string, p: Parameters<typeof item>[0], units: "metric" | "imperial" = "metric") => {
  const c = columns.find((x) => x.id === id);
  if (!c) throw new Error(`no column ${id}`);
  return said(item(p), c, units);
};

describe("a cell of the list", () => {
  it("is written in the shop's units", () => {
    expect(cell("w", { w: 1200 })).toBe("1\u2009200");
    expect(cell("w", { w: 1200.15 }, "imperial")).toBe(`3' 11 1\u20444"`);
    expect(cell("kg", { kg: 0.8 })).toBe("800 g");
    expect(cell("uses", { uses: 5 })).toBe("5 × a week");
  });
  it("joins several words and leaves what is not known empty", () => {
    expect(cell("flags", { flags: ["sharp", "rust"] })).toBe("sharp, rust");
    expect(cell("kg", { kg: 0 })).toBe("");
    expect(cell("family", { family: "" })).toBe("");
  });
  it("has a field behind it unless it is worked out", () => {
    expect(columns.filter((c) => !c.field).map((c) => c.id)).toEqual(["place"]);
    expect(columns.filter((c) => c.assumed).map((c) => c.assumed)).toEqual(["w", "h", "d", "kg", "uses_per_week"]);
  });
});
