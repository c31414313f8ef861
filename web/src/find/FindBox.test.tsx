import { act } from "react";
import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import type { Found } from "../api/client";
import { press, round, settle, show, type } from "../testing";
import { FindBox } from "./FindBox";

/** none of it is out, and nothing goes with it. */
const quiet = { count: 1, home: 1, out: [], with: [], set_up: "", open: [], box: "", caution: "" };

const hits: Found[] = [
  {
    id: "carcass-saw",
    kind: "item",
    name: "Carcass saw",
    address: "B1",
    where: "Cleat field, wall B",
    photo: "",
    now: "",
    going: "",
    sure: true,
    ...quiet,
  },
  {
    id: "pull-saw",
    kind: "item",
    name: "Pull saw",
    address: "",
    where: "",
    photo: "",
    now: "roll Clamp cart out first",
    going: "",
    sure: false,
    ...quiet,
  },
];

function answering(list: Found[]) {
  const asked: string[] = [];
  vi.stubGlobal(
    "fetch",
    vi.fn(async (request: Request) => {
      asked.push(request.url);
      return new Response(JSON.stringify(list), { status: 200, headers: { "Content-Type": "application/json" } });
    }),
  );
  return asked;
}

// The code that draws what is found comes with the first focus.
beforeAll(async () => {
  await import("./Hits");
});
afterEach(() => vi.unstubAllGlobals());

describe("the find box", () => {
  it("answers while one types, with address and place in words", async () => {
    const asked = answering(hits);
    const box = await show(<FindBox round={round({})} revision={3} onChoose={vi.fn()} />);
    const input = box.querySelector("input") as HTMLInputElement;
    input.focus();
    await settle();
    await type(input, "saw");
    expect(asked.at(-1)).toContain("q=saw");
    const options = [...box.querySelectorAll("[role=option]")];
    expect(options.map((o) => o.getAttribute("aria-selected"))).toEqual(["true", "false"]);
    expect(options[0]?.textContent).toContain("Cleat field, wall B");
    expect(options[1]?.textContent).toContain("(nearly)");
    expect(options[1]?.textContent).toContain("no home yet");
  });
  it("goes down with the arrow and chooses with Enter", async () => {
    answering(hits);
    const chosen = vi.fn();
    const box = await show(<FindBox round={round({})} revision={3} onChoose={chosen} />);
    const input = box.querySelector("input") as HTMLInputElement;
    input.focus();
    await settle();
    await type(input, "saw");
    await press(input, "ArrowDown");
    expect(input.getAttribute("aria-activedescendant")).toBe(box.querySelectorAll("[role=option]")[1]?.id);
    await press(input, "Enter");
    expect(chosen).toHaveBeenCalledWith(hits[1]);
    expect(box.querySelector("[role=listbox]")?.hasAttribute("hidden")).toBe(true);
  });
  it("takes what the whole word finds when Enter comes before the answer", async () => {
    let answer: (list: Found[]) => void = () => undefined;
    const late = new Promise<Found[]>((resolve) => (answer = resolve));
    vi.stubGlobal(
      "fetch",
      vi.fn(async (request: Request) => {
        const list = request.url.endsWith("q=saw") ? await late : hits;
        return new Response(JSON.stringify(list), { status: 200, headers: { "Content-Type": "application/json" } });
      }),
    );
    const chosen = vi.fn();
    const box = await show(<FindBox round={round({})} revision={3} onChoose={chosen} />);
    const input = box.querySelector("input") as HTMLInputElement;
    input.focus();
    await settle();
    await type(input, "s");
    await type(input, "saw");
    expect(box.querySelectorAll("[role=option]")).toHaveLength(2);
    await press(input, "Enter");
    expect(chosen).not.toHaveBeenCalled();
    await act(async () => {
      answer(hits.slice(1));
      await late;
      await new Promise((resolve) => setTimeout(resolve, 20));
    });
    expect(chosen).toHaveBeenCalledExactlyOnceWith(hits[1]);
  });
  it("says so when nothing is called that", async () => {
    answering([]);
    const box = await show(<FindBox round={round({})} revision={3} onChoose={vi.fn()} />);
    const input = box.querySelector("input") as HTMLInputElement;
    input.focus();
    await settle();
    await type(input, "xyzzy");
    expect(box.querySelector("[role=option]")?.textContent).toContain("Nothing is called that");
  });
  it("takes no stroke of the key that leads to it", async () => {
    answering(hits);
    const box = await show(<FindBox round={round({})} revision={3} onChoose={vi.fn()} />);
    const input = box.querySelector("input") as HTMLInputElement;
    await type(input, "/saw");
    expect(input.value).toBe("saw");
  });
});
