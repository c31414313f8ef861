import { act, type ReactNode } from "react";
import { describe, expect, it, vi } from "vitest";
import type { Field } from "../api/client";
import { settle, show } from "../testing";
import { AddLine } from "./Book";
import { Choice, Several } from "./Entry";
import { SurveyContext, type Draft } from "./useSurvey";

const words = (path: string, text: string, choices: string[]): Field => ({
  path,
  label: path,
  text,
  shown: "",
  assumed: false,
  length: false,
  choices,
});

async function notes(children: ReactNode, drafts: Record<string, Draft> = {}) {
  const enter = vi.fn((path: string, text: string) =>
    Promise.resolve({ added: path.endsWith("+") && text ? "walls/A/features/A-door" : "" }),
  );
  const forget = vi.fn();
  const value = { area: "main", data: {} as never, drafts, enter, forget, aim: "", setAim: () => undefined };
  const box = await show(<SurveyContext.Provider value={value}>{children}</SurveyContext.Provider>);
  return { box, enter, forget };
}

async function letters(input: HTMLInputElement, text: string) {
  await act(async () => {
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
    set?.call(input, text);
    input.dispatchEvent(new Event("input", { bubbles: true }));
  });
}

describe("a choice in the notes", () => {
  it("stands side by side when there are few words, in the words of the trade", async () => {
    const { box, enter } = await notes(
      <Choice field={words("claimed", "yes", ["yes", "no"])} names={{ yes: "claimed", no: "left alone" }} />,
    );
    const buttons = [...box.querySelectorAll("button")];
    expect(buttons.map((b) => b.textContent)).toEqual(["claimed", "left alone"]);
    expect(buttons[0]?.dataset.state).toBe("on");
    await act(async () => buttons[1]?.click());
    expect(enter).toHaveBeenCalledWith("claimed", "no");
  });
  it("is a list when there are many, and says when nothing is known yet", async () => {
    const { box } = await notes(<Choice field={words("surface", "", ["", "brick", "boards", "sheet-metal"])} />);
    expect(box.querySelector("[role=combobox]")?.textContent).toContain("not known yet");
  });
  it("says why a word was refused", async () => {
    const { box } = await notes(<Choice field={words("top", "level", ["level", "slope"])} />, {
      top: { text: "slope", why: "the door would not fit" },
    });
    expect(box.querySelector("[role=alert]")?.textContent).toBe("the door would not fit");
  });
  it("may be several at once, kept in one order", async () => {
    const { box, enter } = await notes(<Several field={words("climate", "sun", ["frost", "damp", "sun"])} />);
    await act(async () => box.querySelectorAll("button")[0]?.click());
    expect(enter).toHaveBeenCalledWith("climate", "frost,sun");
  });
});

describe("the line that adds features", () => {
  it("adds by one letter and keeps the digits that follow at once", async () => {
    const onAdded = vi.fn();
    const { box, enter } = await notes(<AddLine kinds={["door", "window"]} path="walls/A/features/+" onAdded={onAdded} />);
    const input = box.querySelector("input") as HTMLInputElement;
    await letters(input, "d");
    await letters(input, "300");
    await settle();
    expect(enter).toHaveBeenCalledTimes(1);
    expect(enter).toHaveBeenCalledWith("walls/A/features/+", "door");
    expect(onAdded).toHaveBeenCalledWith("walls/A/features/A-door", expect.any(String));
  });
  it("says of a letter that it adds nothing, and goes on with Enter when it is empty", async () => {
    const onNext = vi.fn();
    const { box, enter } = await notes(<AddLine kinds={["door"]} path="walls/A/features/+" onAdded={vi.fn()} onNext={onNext} />);
    const input = box.querySelector("input") as HTMLInputElement;
    await letters(input, "q");
    expect(box.textContent).toContain("“q” adds nothing");
    expect(enter).not.toHaveBeenCalled();
    await letters(input, "");
    await act(async () => {
      input.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true }));
    });
    expect(onNext).toHaveBeenCalled();
  });
});
