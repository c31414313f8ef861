import { describe, expect, it } from "vitest";
import { item, place, round } from "../testing";
import { stepFrom } from "./walk";

const elevation = (id: string, offset: number) => ({ ...round({}).elevations[0]!, id, offset });
const piece = (x: number) => [{ x, z: 1000, w: 50, h: 300, behind: false }];
const shop = round({
  elevations: [elevation("A", 0), elevation("B", 4000)],
  places: [place({ id: "B1", elevation: 1, x: 100 }), place({ id: "A2", x: 2000 }), place({ id: "A1", x: 0 })],
  items: [
    item({ id: "saw", place: "B1", elevation: 1, pieces: piece(200) }),
    item({ id: "plane", place: "A1", elevation: 0, pieces: piece(500) }),
    item({ id: "gauge", place: "A1", elevation: 0, pieces: piece(100) }),
    item({ id: "lost" }),
  ],
});
const from = (at: string, key: string) => {
  const [kind, id] = at.split(":");
  const to = stepFrom(shop, at === "" ? undefined : { kind: kind as "item", id: id ?? "" }, key);
  return to && `${to.kind}:${to.id}`;
};

describe("the arrows on the stage", () => {
  it("go along the things that are in sight, and end at the ends", () => {
    expect(from("", "ArrowRight")).toBe("item:gauge");
    expect(from("item:gauge", "ArrowRight")).toBe("item:plane");
    expect(from("item:plane", "ArrowRight")).toBe("item:saw");
    expect(from("item:saw", "ArrowRight")).toBeUndefined();
    expect(from("", "ArrowLeft")).toBe("item:saw");
  });
  it("go along the places when a place is selected, up to one and down into it", () => {
    expect(from("item:plane", "ArrowUp")).toBe("place:A1");
    expect(from("place:A1", "ArrowRight")).toBe("place:A2");
    expect(from("place:A2", "ArrowRight")).toBe("place:B1");
    expect(from("place:A1", "ArrowDown")).toBe("item:gauge");
    expect(from("place:A2", "ArrowDown")).toBeUndefined();
  });
  it("go to the first place of the next wall", () => {
    expect(from("", "PageDown")).toBe("place:A1");
    expect(from("item:gauge", "PageDown")).toBe("place:B1");
    expect(from("place:B1", "PageDown")).toBeUndefined();
    expect(from("place:B1", "PageUp")).toBe("place:A1");
  });
});
