import { describe, expect, it, vi } from "vitest";
import { item, press, round, show } from "../testing";
import { Tray } from "./Tray";

const lost = [
  item({ id: "small", name: "Small thing", seconds: 10 }),
  item({ id: "big", name: "Big nuisance", seconds: 300, uses: 5 }),
  item({ id: "some", name: "Clamps", count: 8, homed: 5, place: "D2", seconds: 90 }),
];

describe("the tray", () => {
  it("puts the biggest nuisance first and counts what has only part of its home", async () => {
    const box = await show(
      <Tray round={round({ items: [...lost, item({ id: "home", homed: 1, place: "B1" })] })} onHold={vi.fn()} onPlace={vi.fn()} />,
    );
    expect([...box.querySelectorAll("[data-tray]")].map((b) => b.getAttribute("data-tray"))).toEqual(["big", "some", "small"]);
    expect(box.textContent).toContain("3 things");
    expect(box.textContent).toContain("8 × Clamps");
  });
  it("is walked along with the arrows and places with Enter", async () => {
    const placed = vi.fn();
    const box = await show(<Tray round={round({ items: lost })} onHold={vi.fn()} onPlace={placed} />);
    const buttons = [...box.querySelectorAll<HTMLButtonElement>("[data-tray]")];
    expect(buttons.map((b) => b.tabIndex)).toEqual([0, -1, -1]);
    buttons[0]?.focus();
    await press(buttons[0] as Element, "ArrowRight");
    expect(document.activeElement).toBe(buttons[1]);
    await press(buttons[1] as Element, "End");
    expect(document.activeElement).toBe(buttons[2]);
    await press(buttons[2] as Element, "Enter");
    expect(placed).toHaveBeenCalledWith(expect.objectContaining({ id: "small" }));
  });
  it("says what to do when everything has a home", async () => {
    const box = await show(<Tray round={round({ items: [item({ homed: 1, place: "B1" })] })} onHold={vi.fn()} onPlace={vi.fn()} />);
    expect(box.textContent).toContain("Everything has a home");
    expect(box.querySelector("kbd")?.textContent).toBe("f");
  });
});
