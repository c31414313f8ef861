import { describe, expect, it } from "vitest";
import { item, place, round, show } from "../testing";
import { glyphOf, glyphs } from "./glyphs";
import { counts, lenses, shade, tintOf } from "./lenses";
import { fitted, lies } from "./shapes";
import { Silhouette } from "./Silhouette";

describe("the silhouettes", () => {
  it("are more than twenty, each of its own shape", () => {
    const shapes = Object.entries(glyphs).map(([kind, g]) => [kind, g.strokes.map((s) => s.d).join("")] as const);
    expect(shapes.length).toBeGreaterThanOrEqual(20);
    // Boards and sheets are plain rectangles in their own proportions.
    const seen = new Map<string, string>();
    for (const [kind, d] of shapes) {
      if (kind === "sheet") continue;
      expect(seen.get(d), `${kind} looks like ${seen.get(d)}`).toBeUndefined();
      seen.set(d, kind);
    }
  });
  it("are closed paths of plain commands with finite numbers", () => {
    for (const [kind, g] of Object.entries(glyphs))
      for (const s of g.strokes) {
        expect(s.d, kind).toMatch(/^M[-\d]/);
        expect(s.d, kind).toMatch(/z$/i);
        expect(s.d, kind).not.toMatch(/NaN|undefined|Infinity/);
      }
  });
  it("draw what has none of its own as a box, and kin alike", () => {
    expect(glyphOf("hovercraft")).toBe(glyphs.box);
    expect(glyphOf("parallel-clamp")).toBe(glyphs["bar-clamp"]);
  });
  it("fill their box wherever and however it stands, and are turned where the thing lies", () => {
    const corners = (d: string) => {
      const n = [...d.matchAll(/-?[\d.]+/g)].map(Number);
      return n.reduce<[number, number][]>((all, v, i) => (i % 2 === 0 ? [...all, [v, n[i + 1]!]] : all), []);
    };
    for (const [kind, g] of Object.entries(glyphs))
      for (const s of g.strokes) {
        const unit = { x: 0, y: 0, w: 100, h: 100 };
        const first = corners(fitted(s.d, unit, false));
        // Twice as wide, half as high, elsewhere; and on its side, where what was above is at the left.
        const apart = corners(fitted(s.d, { x: 10, y: -20, w: 200, h: 50 }, false));
        const lying = corners(fitted(s.d, unit, true));
        expect(apart, kind).toHaveLength(first.length);
        first.forEach(([u, v], i) => {
          expect(apart[i]![0]).toBeCloseTo(10 + 2 * u, 1);
          expect(apart[i]![1]).toBeCloseTo(-20 + v / 2, 1);
          expect(lying[i]).toEqual([expect.closeTo(v, 1), expect.closeTo(100 - u, 1)]);
        });
      }
    expect(lies(glyphOf("saw"), { x: 0, y: 0, w: 500, h: 100 })).toBe(true);
    expect(lies(glyphOf("saw"), { x: 0, y: 0, w: 100, h: 500 })).toBe(false);
    // Straight strokes come out as they are written.
    expect(fitted("M0 0h18v100H0z", { x: 5, y: 0, w: 100, h: 100 }, false)).toBe("M5 0L23 0L23 100L5 100Z");
  });
  it("leave only the outline of what is lent", async () => {
    const box = await show(
      <svg>
        <Silhouette kind="saw" x={0} y={0} w={100} h={500} outline />
      </svg>,
    );
    for (const path of box.querySelectorAll("path")) expect(path.getAttribute("fill")).toBe("none");
  });
});

describe("the lenses", () => {
  const shop = round({
    items: [
      item({ id: "a", order: 1, uses: 5, place: "B1" }),
      item({ id: "b", order: 2, uses: 1, place: "B1" }),
      item({ id: "c", order: 2, uses: 0.05, place: "B1" }),
      item({ id: "d", order: 0, uses: 5, place: "" }),
    ],
  });
  it("count what has a home", () => {
    const [order, uses] = lenses;
    expect(order && counts(order, shop)).toEqual([1, 2, 0, 0]);
    expect(uses && counts(uses, shop)).toEqual([1, 1, 0, 1]);
  });
  it("give every thing with a home exactly one colour", () => {
    for (const lens of lenses.filter((l) => l.about === "things"))
      for (const i of shop.items.filter((x) => x.place))
        expect(
          lens.steps.filter((s) => s.holds(i)),
          `${lens.id} ${i.id}`,
        ).toHaveLength(1);
    expect(tintOf(undefined, shop.items[0]!)).toBeUndefined();
    expect(tintOf(lenses[0], shop.items[0]!)).toBe("var(--order-1)");
  });
  it("say of every place how loaded and how full it is, each in one step", () => {
    const shop = round({
      places: [
        place({ id: "a", capacity: 10, kg: 12, fill: 0.9 }),
        place({ id: "b", capacity: 10, kg: 8, fill: 0.7 }),
        place({ id: "c", capacity: 10, kg: 1, fill: 0.1 }),
        place({ id: "d" }),
      ],
    });
    for (const id of ["load", "fill"]) {
      const lens = lenses.find((l) => l.id === id);
      expect(counts(lens!, shop)).toEqual([1, 1, 1, 1]);
      expect(shade(lens, shop.places[0]!)).toBe("var(--order-4)");
      expect(tintOf(lens, item({}))).toBeUndefined();
    }
    expect(shade(lenses[0], shop.places[0]!)).toBeUndefined();
  });
});
