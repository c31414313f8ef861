import { act, type ReactNode } from "react";
import { describe, expect, it, vi } from "vitest";
import type { Field } from "../api/client";
import { press, show } from "../testing";
import { Entry } from "./Entry";
import { SurveyContext, type Draft, type Taken } from "./useSurvey";

const field = (path: string, text: string, assumed = false): Field => ({
  path,
  label: path,
  text,
  shown: "",
  assumed,
  length: true,
  choices: [],
});

async function notes(children: ReactNode, enter: (path: string, text: string) => Promise<Taken>, drafts: Record<string, Draft> = {}) {
  const value = { area: "main", data: {} as never, drafts, enter, forget: () => undefined, aim: "", setAim: () => undefined };
  const box = await show(
    <SurveyContext.Provider value={value}>
      <div data-book="yes">
        {children}
        <input data-add="yes" />
      </div>
    </SurveyContext.Provider>,
  );
  return { box, input: (path: string) => box.querySelector<HTMLInputElement>(`input[data-path="${path}"]`) as HTMLInputElement };
}

describe("an entry of the notes", () => {
  it("goes to the next number that is missing, past those that are there", async () => {
    const enter = vi.fn(() => Promise.resolve({ added: "" }));
    const { input } = await notes(
      [
        <Entry key="a" field={field("a", "")} />,
        <Entry key="b" field={field("b", "900")} />,
        <Entry key="c" field={field("c", "2000", true)} />,
      ],
      enter,
    );
    act(() => input("a").focus());
    await press(input("a"), "Enter");
    expect(document.activeElement).toBe(input("c"));
    expect(enter).not.toHaveBeenCalled();
  });
  it("says with Enter that an assumed value is so, and then goes to the line that adds", async () => {
    const enter = vi.fn(() => Promise.resolve({ added: "" }));
    const { input } = await notes(<Entry field={field("h", "2000", true)} />, enter);
    act(() => input("h").focus());
    await press(input("h"), "Enter");
    expect(enter).toHaveBeenCalledWith("h", "2000");
    expect((document.activeElement as HTMLInputElement).dataset.add).toBe("yes");
  });
  it("shows what was refused with the reason and keeps what was typed", async () => {
    const { box, input } = await notes(<Entry field={field("w", "900")} />, () => Promise.resolve({ added: "" }), {
      w: { text: "9 m", why: "too wide" },
    });
    expect(input("w").value).toBe("9 m");
    expect(input("w").getAttribute("aria-invalid")).toBe("true");
    expect(box.querySelector("[role=alert]")?.textContent).toBe("too wide");
  });
});
