import { afterEach, describe, expect, it, vi } from "vitest";
import type { Why } from "../api/client";
import { item, place, round, settle, show } from "../testing";
import { ItemSheet } from "./ItemSheet";
import { PlaceSheet } from "./PlaceSheet";
import { ShopSheet } from "./ShopSheet";

const why: Why = {
  item: "plane",
  place: "B1",
  seconds: 28,
  uses: 3,
  order: 2,
  band: "stretch",
  station: "Bench",
  fetch: 4.9,
  put_back: 4.4,
  caution: "lifting index over 1",
  parts: [
    { name: "walk", seconds: 2.1, detail: "2 × 0.9 m" },
    { name: "search", seconds: 0.5, detail: "in sight" },
  ],
  better: [
    { place: "B4", seconds: 14, barred: "6 mm too wide" },
    { place: "B5", seconds: 20, barred: "" },
  ],
  path: [
    [0, 0],
    [1, 1],
  ],
  spot: null as never,
};

afterEach(() => vi.unstubAllGlobals());

describe("the sheets", () => {
  it("say why a thing lives where it does, and what bars better places", async () => {
    vi.stubGlobal(
      "fetch",
      vi.fn(
        async (r: Request) =>
          new Response(
            JSON.stringify(
              r.url.includes("/out")
                ? []
                : r.url.includes("/admit")
                  ? {
                      found: true,
                      place: "B4",
                      moved: [{ item: "saw", name: "Rip saw", from: "B4", to: "D1" }],
                      before: 40,
                      seconds: 22,
                      why: "",
                      more: 0,
                      more_moved: 0,
                    }
                  : r.url.includes("/uses")
                    ? [{ item: "plane", n: 3, last: "2026-11-20" }]
                    : why,
            ),
            { status: 200, headers: { "Content-Type": "application/json" } },
          ),
      ),
    );
    const it0 = item({ place: "B1", homed: 1, order: 2, assumed: ["kg"] });
    const box = await show(<ItemSheet round={round({ items: [it0], places: [place({})] })} revision={1} item={it0} onPlace={vi.fn()} />);
    await settle();
    const text = box.textContent ?? "";
    expect(text).toContain("2.1 s");
    expect(text).toContain("28 s");
    expect(text).toContain("6 mm too wide");
    expect(text).toContain("Rip saw B4 → D1");
    expect(text).toContain("B4, −18 s");
    expect(text).toContain("Caution: lifting index over 1");
    expect(text).toContain("assumed: kg");
    expect([...box.querySelectorAll("button")].filter((b) => b.textContent === "Move there")).toHaveLength(1);
  });
  it("never make a rating up", async () => {
    const rated = await show(<PlaceSheet revision={1} round={round({})} place={place({ kg: 30, capacity: 25 })} />);
    expect(rated.textContent).toContain("30.0 of 25 kg");
    const unrated = await show(<PlaceSheet revision={1} round={round({})} place={place({ kg: 3 })} />);
    expect(unrated.textContent).toContain("3.0 kg, not rated");
    expect(unrated.textContent).toContain("Nothing lives here");
  });
  it("sum the shop up and list what costs most first", async () => {
    const shop = round({
      items: [item({ id: "a", name: "Cheap", place: "B1", seconds: 5 }), item({ id: "b", name: "Dear", place: "B2", seconds: 90 })],
      totals: { seconds: 95, lines: 2, homeless: 0, pieces: 2, orders: [0, 1, 1, 0, 0] },
    });
    const box = await show(<ShopSheet revision={1} round={shop} />);
    const buttons = [...box.querySelectorAll("button")].map((b) => b.textContent ?? "");
    expect(buttons[0]).toContain("Dear");
    expect(buttons[1]).toContain("Cheap");
    expect(box.textContent).toContain("95 s");
  });
});
