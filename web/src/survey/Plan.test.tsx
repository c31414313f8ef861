import { describe, expect, it, vi } from "vitest";
import type { Report, Surveyed } from "../api/client";
import { show } from "../testing";
import { closing } from "./Check";
import { Plan } from "./Plan";

const corners: [number, number][] = [
  [0, 0],
  [0, 3000],
  [4000, 3000],
  [4000, 0],
];
const side = (wall: string, measured: boolean, value: number) => ({ wall, measured, value: measured ? value : 0, adjusted: value });
const report = (p: Partial<Report> = {}): Report => ({
  corners: corners.map(([x, y], i) => ({ name: ["DA", "AB", "BC", "CD"][i] ?? "", x, y, sd_x: 1, sd_y: 1, inside: 90, how: "square" })),
  measures: [
    {
      name: "diagonal DA to BC",
      kind: "diagonal",
      value: 5000,
      adjusted: 5000,
      sd: 2,
      residual: 0,
      w: 0,
      redundancy: 0.3,
      left_out: false,
    },
  ],
  walls: [side("A", true, 3000), side("B", true, 4000), side("C", false, 3000), side("D", false, 4000)],
  closure: 0,
  share: 0,
  closes: true,
  checked: true,
  fault: "",
  ...p,
});
const elevation = (id: string, claimed: boolean) => ({
  id,
  area: "main",
  title: "",
  middle: false,
  claimed,
  surface: "",
  offset: 0,
  length: 3000,
  profile: [
    [0, 2400],
    [3000, 2400],
  ],
  studs: [],
  features: [],
  reach: [],
});
const data = (r: Report = report()): Surveyed =>
  ({
    revision: 1,
    units: "metric",
    areas: [],
    notes: {},
    report: r,
    room: { area: "main", corners, gaps: [{ kind: "door", wall: "A", from: [0, 300], to: [0, 1200], mid: [0, 750] }] },
    walls: ["A", "B", "C"].map((w) => elevation(w, true)).concat(elevation("D", false)),
    above: [],
    below: [],
    added: "",
  }) as unknown as Surveyed;

const drawn = (r?: Report, onWall = vi.fn()) =>
  show(<Plan data={data(r)} units="metric" wall="B" onWall={onWall} things={[]} onZone={vi.fn()} />);

describe("the plan of a survey", () => {
  it("writes what was measured upright and what follows slanted", async () => {
    const box = await drawn();
    const text = (wall: string) => box.querySelector(`[data-wall=${wall}] text`);
    expect(text("A")?.textContent).toBe("3\u2009000");
    expect(text("A")?.getAttribute("font-style")).toBe("normal");
    expect(text("C")?.getAttribute("font-style")).toBe("italic");
  });
  it("draws the wall one is at in the chalk line's blue and one left alone dashed", async () => {
    const box = await drawn();
    expect(box.querySelector("[data-wall=B] line")?.getAttribute("stroke")).toBe("var(--blue)");
    expect(box.querySelector("[data-wall=A] line")?.getAttribute("stroke")).toBe("var(--ink)");
    expect(box.querySelector("[data-wall=D] line")?.getAttribute("stroke-dasharray")).toBe("6 3");
    expect(box.querySelector("[data-wall=A] line")?.getAttribute("stroke-dasharray")).toBeNull();
  });
  it("goes to a wall that is pressed", async () => {
    const onWall = vi.fn();
    const box = await drawn(undefined, onWall);
    box.querySelector("[data-wall=C]")?.dispatchEvent(new Event("pointerup", { bubbles: true }));
    expect(onWall).toHaveBeenCalledWith("C");
  });
  it("marks the reading that does not fit in red and a proposed diagonal in blue", async () => {
    const bad = report({
      suspect: { measure: 0, fits: 4980, says: "", rivals: [] },
      propose: { from: 1, to: 3, name: "diagonal AB to CD", length: 5000, says: "" },
    });
    const box = await drawn(bad);
    expect([...box.querySelectorAll("line")].some((l) => l.getAttribute("stroke") === "var(--red)")).toBe(true);
    expect(box.querySelector("[data-testid=proposed] line")?.getAttribute("stroke")).toBe("var(--blue)");
  });
});

describe("how a survey stands", () => {
  it("is said in one line, the worst first", () => {
    expect(closing(data(report({ fault: "x", suspect: { measure: 0, fits: 1, says: "", rivals: [] } })), "metric")).toBe("does not close");
    expect(closing(data(report({ suspect: { measure: 0, fits: 1, says: "", rivals: [] } })), "metric")).toBe("one reading does not fit");
    expect(closing(data(report({ walls: [side("A", true, 1), side("B", false, 1)] })), "metric")).toBe("not measured yet");
    expect(closing(data(report({ checked: false })), "metric")).toBe("nothing checks it yet");
    expect(closing(data(report({ closure: 3.2 })), "metric")).toBe("checked, closes within 3 mm");
  });
});
