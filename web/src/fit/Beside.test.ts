import { describe, expect, it } from "vitest";
import type { Compared, Proposal, Round } from "../api/client";
import { rows } from "./Beside";

const pair = (before: number, after: number) => ({ name: "", before, after });

function plan(title: string, objective: number, table: Partial<Compared>, made?: Partial<Proposal["made"]>): Proposal {
  const whole: Compared = {
    stations: [{ name: "Bench", before: 300, after: objective / 2 }],
    orders: [pair(3, 0), pair(1, 5), pair(9, 8), pair(2, 1), pair(0, 0)],
    minded: pair(4, 2),
    walked: pair(2151, 1000),
    walking: pair(600, 300),
    fill: pair(0.5, 0.6),
    in_use: pair(10, 12),
    roomy: pair(8, 9),
    sure: { mean: 400, low: 300, high: 500, share: 1, draw: 1, rates: 0, sizes: 0, growth: 0, uses: 0.1 },
    series: pair(20, 20),
    in_order: pair(9, 15),
    tight: 0,
    was_tight: 0,
    paid: [{ name: "dust", price: 10, paid: 0 }],
    ...table,
  };
  return { run: { title, objective, bound: objective * 0.97 }, table: whole, moves: [], lost: [], made } as unknown as Proposal;
}

const standing = { units: "metric", totals: { seconds: 1000, lines: 20, homeless: 3, pieces: 30, orders: [] } } as unknown as Round;

describe("the table of plans side by side", () => {
  const line = (plans: Proposal[], name: string) => rows(standing, plans).find((l) => l.name === name);

  it("sets how it stands beside every plan and marks the best of each line", () => {
    const plans = [plan("a", 600, {}), plan("b", 500, { roomy: pair(8, 4), walked: pair(2151, 1200) })];
    expect(line(plans, "handling a week")).toMatchObject({ before: "16 min 40 s", plans: ["10 min 00 s", "8 min 20 s"], best: [1] });
    expect(line(plans, "on foot a week")).toMatchObject({ before: "2\u2009151 m", plans: ["1\u2009000 m", "1\u2009200 m"], best: [0] });
    expect(line(plans, "with their growth room left")?.best).toEqual([0]);
    expect(line(plans, "Bench")?.best).toEqual([1]);
  });

  it("marks nothing where all are alike or where less is neither better nor worse", () => {
    const plans = [plan("a", 600, {}), plan("b", 500, {})];
    expect(line(plans, "cautions")?.best).toBeUndefined();
    expect(line(plans, "filled, on the mean")?.best).toBeUndefined();
    expect(line([plan("a", 600, {})], "handling a week")?.best).toBeUndefined();
  });

  it("tells material only of what is built, money only where there are prices, and wishes that cost something", () => {
    const homes = plan("homes", 600, { paid: [{ name: "dust", price: 10, paid: 20 }] });
    expect(line([homes], "sheet")).toBeUndefined();
    const built = plan("built", 500, {}, { made: [], sheet: 12.34, rail: 3, money: 0, floor_free: 20, wall_free: 9 });
    expect(line([homes, built], "sheet")).toMatchObject({ before: "", plans: ["", "12.3 m²"] });
    expect(line([homes, built], "that costs")).toBeUndefined();
    expect(
      line([homes, plan("dear", 500, {}, { made: [], sheet: 1, rail: 1, money: 250, floor_free: 1, wall_free: 1 })], "that costs")?.plans,
    ).toEqual(["", "250"]);
    expect(rows(standing, [homes, built]).find((l) => l.name.startsWith("paid"))).toMatchObject({ plans: ["20 s", "0 s"], best: [1] });
  });
});
