import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Line } from "../api/client";
import { press, settle, show, type } from "../testing";
import { LineEntry } from "./LineEntry";

const read: Line = {
  name: "Jack plane",
  kind: "jack-plane",
  known: true,
  unknown: 1,
  why: "",
  place: "",
  floor: "",
  here: false,
  count: 1,
  size: [65, 360, 140],
  kg: 2.3,
  uses: 1,
  used_at: [],
  hold: ["hang"],
  flags: [],
  family: "",
  assumed: ["d"],
  glyph: "plane",
  station: "",
  chips: [
    { from: 0, to: 10, kind: "name", text: "jakc plane", says: "jack plane", sure: false },
    { from: 11, to: 17, kind: "uses", text: "weekly", says: "1 times a week", sure: true },
    { from: 18, to: 23, kind: "unknown", text: "@moon", says: 'there is no station "moon"', sure: true },
  ],
};

const answers: Record<string, { status: number; body: unknown }> = {};
const asked: { url: string; body: string }[] = [];

beforeEach(() => {
  localStorage.clear();
  asked.length = 0;
  answers["/api/v1/lines"] = { status: 200, body: read };
  answers["/api/v1/kinds"] = {
    status: 200,
    body: [{ id: "jack-plane", name: "jack plane", group: "planes", size: [65, 360, 140], kg: 2.3, glyph: "plane" }],
  };
  answers["/api/v1/items"] = { status: 200, body: { revision: { id: 2, what: "listed" }, ids: ["jack-plane-2"], notes: [], here: "" } };
  vi.stubGlobal(
    "fetch",
    vi.fn(async (request: Request) => {
      const path = new URL(request.url, "http://x").pathname;
      asked.push({ url: path, body: request.method === "GET" ? "" : await request.text() });
      const a = answers[path] ?? { status: 404, body: {} };
      return new Response(JSON.stringify(a.body), {
        status: a.status,
        headers: { "Content-Type": a.status < 400 ? "application/json" : "application/problem+json" },
      });
    }),
  );
});
afterEach(() => vi.unstubAllGlobals());

async function opened(onAdded = vi.fn()) {
  const box = await show(<LineEntry places={[]} revision={1} units="metric" onAdded={onAdded} onRows={vi.fn()} />);
  return { box, input: box.querySelector("input") as HTMLInputElement, onAdded };
}

describe("the line of a thing", () => {
  it("shows what every piece is taken for: sure, forgiven or not understood", async () => {
    const { box, input } = await opened();
    await type(input, "jakc plane weekly @moon");
    await settle();
    const chips = [...box.querySelectorAll("[data-chip]")].map((c) => c.textContent);
    expect(chips).toEqual(["jakc plane taken for jack plane?", "weekly 1 times a week", '@moon there is no station "moon"make it one']);
    expect(box.textContent).toContain("65 × 360 × 140 mm");
    expect(box.textContent).toContain("1 assumed");
  });
  it("completes the name with Tab and leaves Tab alone when there is nothing to complete", async () => {
    const { box, input } = await opened();
    await type(input, "8 jack");
    await settle();
    expect(box.querySelector("[data-testid=offers]")?.textContent).toContain("jack plane");
    await press(input, "Tab");
    expect(input.value).toBe("8 jack plane ");
    expect(box.querySelector("[data-testid=offers]")).toBeNull();
  });
  it("lists with Enter, empties itself and brings the line back with the arrow", async () => {
    const { input, onAdded } = await opened();
    await type(input, "jack plane weekly");
    await press(input, "Enter");
    await settle();
    expect(onAdded).toHaveBeenCalledWith(["jack-plane-2"]);
    expect(asked.find((a) => a.url === "/api/v1/items")?.body).toBe('{"lines":["jack plane weekly"]}');
    expect(input.value).toBe("");
    await press(input, "ArrowUp");
    expect(input.value).toBe("jack plane weekly");
    await press(input, "ArrowDown");
    expect(input.value).toBe("");
  });
  it("keeps what was typed when it is refused, with the reason", async () => {
    answers["/api/v1/items"] = {
      status: 422,
      body: { title: "Unprocessable Entity", status: 422, detail: "what is it? Begin with its name" },
    };
    const { box, input, onAdded } = await opened();
    await type(input, "@bench 3kg");
    await press(input, "Enter");
    await settle();
    expect(input.value).toBe("@bench 3kg");
    expect(box.querySelector("[role=alert]")?.textContent).toContain("Begin with its name");
    expect(onAdded).not.toHaveBeenCalled();
  });
  it("says on demand what a line may hold", async () => {
    const { box } = await opened();
    const button = box.querySelector("button[aria-expanded]") as HTMLButtonElement;
    expect(button.getAttribute("aria-expanded")).toBe("false");
    await press(button, "Enter");
    button.click();
    await settle();
    expect(box.querySelector("dl")?.textContent).toContain("family:router");
  });
});
