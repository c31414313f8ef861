import { afterEach, describe, expect, it, vi } from "vitest";
import type { Designed, Layout } from "../api/client";
import { item, place, press, round, settle, show, type } from "../testing";
import { Facts, Inside } from "./Inside";
import Places from "./Places";
import { Plan } from "./Plan";

const front: Layout = {
  view: "from the front",
  w: 1000,
  h: 500,
  notes: ["2 pieces, 3 kg", "overloaded: it may carry 2 kg"],
  shapes: [
    { kind: "thing", x: 20, y: 100, w: 200, h: 300, item: "plane", name: "Plane", glyph: "plane", back: false },
    { kind: "rail", x: 0, y: 400, w: 1000, h: 30, item: "", name: "", glyph: "", back: false },
  ],
};
const made = (id: string, title: string, holds: number): Designed => ({
  kind: { id, title, about: "about it", hung: true },
  w: 1000,
  h: 500,
  d: 90,
  holds,
  pieces: holds,
  kg: 3,
  fill: 0.5,
  spare: "15 % of every row",
  rules: ["2 rows"],
  cautions: [],
  left: [],
  front,
  parts: [],
});
const spot = {
  area: "main",
  wall: "A",
  station: "",
  x: 300,
  z: 900,
  seconds: 40,
  now: 60,
  band: "easy",
  studs: 3,
  surface: "boards",
  depth: 250,
  barred: [],
  cautions: ["mind the door"],
  from_floor: false,
  rot: 0,
};

const sent: { path: string; body?: unknown; match?: string | null }[] = [];
function answering(more: Record<string, { status: number; body: unknown }> = {}) {
  sent.length = 0;
  const answers: Record<string, { status: number; body: unknown }> = {
    "/api/v1/find": { status: 200, body: [{ id: "plane", kind: "item", name: "Plane", address: "", where: "", sure: true }] },
    "/api/v1/storage/size": { status: 200, body: [made("cleat-field", "Cleat field", 2), made("shelf", "Shelf", 1)] },
    "/api/v1/storage/where": {
      status: 200,
      body: { sites: [spot], nowhere: [{ area: "main", wall: "B", why: "left alone" }], w: 1000, h: 500 },
    },
    "/api/v1/storage": {
      status: 200,
      body: { revision: { id: 2, what: "made", kind: "change", who: "", at: "", changed: [] }, ids: ["A2", "A2"] },
    },
    "/api/v1/places/B1/layout": { status: 200, body: front },
    ...more,
  };
  vi.stubGlobal(
    "fetch",
    vi.fn(async (r: Request) => {
      const path = new URL(r.url, "http://x").pathname;
      sent.push({ path, body: r.method === "GET" ? undefined : JSON.parse(await r.text()), match: r.headers.get("If-Match") });
      const a = answers[path] ?? { status: 404, body: {} };
      return new Response(JSON.stringify(a.body), {
        status: a.status,
        headers: { "Content-Type": a.status < 400 ? "application/json" : "application/problem+json" },
      });
    }),
  );
}
afterEach(() => vi.unstubAllGlobals());

const shop = round({
  items: [item({ id: "plane", name: "Plane" }), item({ id: "saw", name: "Saw", kind: "saw", glyph: "saw", family: "saws" })],
});

describe("the drawing of a place", () => {
  it("is to scale, with its dimensions in the shop's units, and things can be picked", async () => {
    const picked = vi.fn();
    const box = await show(<Plan layout={front} units="imperial" width={400} height={300} onPick={picked} label="Field" />);
    expect([...box.querySelectorAll("text")].map((t) => t.textContent)).toEqual([`3' 3 3\u20448"`, `1' 7 11\u204416"`]);
    const thing = box.querySelector("[data-thing=plane]") as Element;
    const r = [...thing.querySelectorAll("rect")].at(-1);
    expect(Number(r?.getAttribute("height")) / Number(r?.getAttribute("width"))).toBeCloseTo(1.5);
    thing.dispatchEvent(new MouseEvent("click", { bubbles: true }));
    expect(picked).toHaveBeenCalledWith("plane");
  });
});

describe("making a place", () => {
  it("sizes every kind for what is wished, asks where, and puts it there", async () => {
    answering();
    const propose = vi.fn();
    const box = await show(<Places round={shop} revision={1} onPropose={propose} />);
    expect(box.textContent).toContain("Say what it should hold");
    await type(box.querySelector("[aria-label='What it should hold']") as HTMLInputElement, "plane");
    await settle();
    expect(sent.find((s) => s.path === "/api/v1/storage/size")).toMatchObject({
      path: "/api/v1/storage/size",
      body: { items: ["plane"], reserve: 0.15 },
    });
    await settle();
    expect(box.querySelector("tbody tr")?.textContent).toBe("Cleat field1\u2009000 × 500 × 902 of 140 s");
    expect(box.querySelector("[data-testid=design]")?.textContent).toContain("Cleat field");
    const button = (text: string) => [...box.querySelectorAll("button")].find((b) => b.textContent?.includes(text)) as HTMLButtonElement;
    button("Where does it go?").click();
    await settle();
    await settle();
    expect(button("Choose a spot").disabled).toBe(true);
    expect(box.querySelector("[aria-label=Spots]")?.textContent).toContain("easy, 3 studs behind, 250 deep free");
    expect(box.textContent).toContain("B left alone");
    button("300 from the left").click();
    await settle();
    expect(propose).toHaveBeenLastCalledWith({ area: "main", wall: "A", x: 300, z: 900, w: 1000, h: 500 });
    button("Put it there").click();
    await settle();
    expect(sent.find((s) => s.path === "/api/v1/storage")?.body).toEqual({
      items: ["plane"],
      reserve: 0.15,
      kind: "cleat-field",
      at: { area: "main", wall: "A", x: 300, z: 900 },
    });
  });
  it("says what was wrong with a size and keeps it", async () => {
    answering({ "/api/v1/storage/size": { status: 422, body: { detail: '"wide": "wide" is not a number' } } });
    const box = await show(<Places round={shop} revision={1} onPropose={vi.fn()} />);
    await type(box.querySelector("[aria-label='What it should hold']") as HTMLInputElement, "plane");
    await type(box.querySelector("[aria-label='width at most']") as HTMLInputElement, "wide");
    await settle();
    expect(box.querySelector("[role=alert]")?.textContent).toContain("is not a number");
    expect((box.querySelector("[aria-label='width at most']") as HTMLInputElement).value).toBe("wide");
  });
});

describe("a place opened", () => {
  it("shows what is in it and what is to be said of it", async () => {
    answering();
    const box = await show(<Inside place={place({ id: "B1" })} round={shop} revision={1} />);
    await settle();
    expect([...box.querySelectorAll("li")].map((l) => l.textContent)).toEqual(front.notes);
    expect(box.querySelector("li.text-red")?.textContent).toContain("overloaded");
  });
  it("takes facts as typed and keeps what is refused, with the reason", async () => {
    answering({ "/api/v1/places/B1": { status: 422, body: { detail: '"lots" is not a number' } } });
    const box = await show(<Facts place={place({ id: "B1", capacity: 0 })} round={shop} revision={4} />);
    expect(box.textContent).toContain("Not rated");
    const input = [...box.querySelectorAll("label")]
      .find((l) => l.textContent?.startsWith("may carry"))
      ?.querySelector("input") as HTMLInputElement;
    await type(input, "lots");
    await press(input, "Enter");
    await settle();
    expect(sent.at(-1)?.body).toEqual({ field: "capacity", text: "lots" });
    expect(sent.at(-1)?.match).toBe('"4"');
    expect(box.querySelector("[role=alert]")?.textContent).toContain("is not a number");
    expect(input.value).toBe("lots");
  });
});
