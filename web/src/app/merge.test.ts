import { expect, it } from "vitest";
import { item, round } from "../testing";
import { merged } from "./merge";

const nothing = { put: [] };

it("makes the later round of an earlier one and keeps what is the same", () => {
  const old = { ...round({}), items: [item({ id: "a" }), item({ id: "b" }), item({ id: "c" })] };
  const head = {
    name: "New",
    units: old.units,
    figure: old.figure,
    totals: old.totals,
    people: old.people,
    comma: old.comma,
    fresh: old.fresh,
    one_out: old.one_out,
    mode: old.mode,
  };
  const now = merged(old, {
    head,
    stations: nothing,
    places: nothing,
    wished: nothing,
    items: { put: [item({ id: "d" }), item({ id: "b", name: "other" })], order: ["d", "c", "b"] },
  });
  expect(now.name).toBe("New");
  expect(now.items.map((i) => i.id)).toEqual(["d", "c", "b"]);
  expect(now.items[2]?.name).toBe("other");
  expect(now.items[1]).toBe(old.items[2]);
  expect(now.places).toBe(old.places);
  expect(now.elevations).toBe(old.elevations);
});
