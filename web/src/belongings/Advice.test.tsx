import { afterEach, describe, expect, it, vi } from "vitest";
import type { Advice } from "../api/client";
import { item, settle, show } from "../testing";
import { AdviceSheet, topics } from "./Advice";

const advice: Advice = {
  revision: 1,
  doubts: {
    sizes: 3,
    kgs: 1,
    uses: 0,
    first: 1,
    list: [
      { item: "a", fields: ["w", "h", "d", "kg"], seconds: 42, area: 0.01 },
      { item: "b", fields: ["w"], seconds: 0, area: 0.005 },
    ],
  },
  alike: [{ items: ["a", "b"], says: "Plane is there twice: keep both, one as a spare?" }],
  families: [{ family: "planes", items: ["b"], has: 2, says: "2 others of their kind are in it" }],
  seldom: { items: ["b"], share: 0.124, pieces: 1, wall: 0.8, wall_share: 0.2, litres: 4, kept: 2 },
};
const items = [item({ id: "a", name: "Plane", place: "B1" }), item({ id: "b", name: "Old plane" })];

const sent: { path: string; body: unknown }[] = [];
async function sheet(topic: "measure" | "alike" | "families" | "dust") {
  sent.length = 0;
  vi.stubGlobal(
    "fetch",
    vi.fn(async (r: Request) => {
      sent.push({ path: new URL(r.url, "http://x").pathname, body: JSON.parse(await r.text()) });
      return new Response(JSON.stringify({ id: 2, what: "done", kind: "change", changed: [], at: "", who: "" }), {
        headers: { "Content-Type": "application/json" },
      });
    }),
  );
  const gone = { go: vi.fn(), seen: vi.fn() };
  const box = await show(
    <AdviceSheet
      topic={topic}
      advice={advice}
      items={items}
      revision={1}
      units="metric"
      onGo={gone.go}
      onClose={vi.fn()}
      onDustSaid={gone.seen}
    />,
  );
  const press = async (text: string) => {
    [...box.querySelectorAll("button")].find((b) => b.textContent?.includes(text))?.click();
    await settle();
  };
  return { box, press, ...gone };
}
afterEach(() => vi.unstubAllGlobals());

describe("advice about the list", () => {
  it("names only what there is something of, and the dust once", () => {
    const text = (a: Advice | undefined, said: boolean) => topics(a, said, "metric").map((t) => t.id);
    expect(text(advice, false)).toEqual(["measure", "alike", "families", "dust"]);
    expect(text(advice, true)).toEqual(["measure", "alike", "families"]);
    expect(text(undefined, false)).toEqual([]);
    expect(topics(advice, false, "metric")[3]?.says).toBe("12 % used less than once a year, on 0.8 m² of wall");
  });
  it("ranks what to measure by what hangs on it, and leads to the thing", async () => {
    const { box, press, go } = await sheet("measure");
    expect([...box.querySelectorAll("li")].map((l) => l.textContent)).toEqual(["Plane size, weight42 s a week", "Old plane width50 cm²"]);
    await press("Old plane");
    expect(go).toHaveBeenCalledWith("b");
  });
  it("sends what was chosen for things that are alike", async () => {
    const { press } = await sheet("alike");
    await press("Merge into one entry");
    expect(sent).toEqual([{ path: "/api/v1/items/alike", body: { ids: ["a", "b"], choice: "merge" } }]);
  });
  it("takes things into a family", async () => {
    const { press } = await sheet("families");
    await press("Take it in");
    expect(sent[0]?.body).toEqual({ ids: ["b"], field: "family", text: "planes" });
  });
  it("says what gathers dust with the wall it takes, and is told that it was seen", async () => {
    const { box, press, seen } = await sheet("dust");
    expect(box.textContent).toContain(
      "1 piece is used less than once a year: 12 % of all you own. They take 0.80 m² of wall, 20 % of what hangs.",
    );
    expect(box.textContent).toContain("2 more are used as seldom and kept in any case");
    await press("Seen");
    expect(seen).toHaveBeenCalled();
  });
});
