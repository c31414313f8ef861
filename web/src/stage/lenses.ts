import type { Item, Round } from "../api/client";
import { depths } from "../free/useFree";

/** A lens recolours the stage by one question. */
export interface Lens {
  id: string;
  key: string;
  name: string;
  /** what it colours: the things, or the walls behind them */
  about: "things" | "walls";
  steps: { label: string; colour: string; holds: (item: Item) => boolean }[];
}

export const lenses: Lens[] = [
  {
    id: "order",
    key: "1",
    name: "Order",
    about: "things",
    steps: [
      { label: "1 within arm's reach", colour: "var(--order-1)", holds: (i) => i.order === 1 },
      { label: "2 a few steps or one door", colour: "var(--order-2)", holds: (i) => i.order === 2 },
      { label: "3 to open and move, or a step up", colour: "var(--order-3)", holds: (i) => i.order === 3 },
      { label: "4 ladder, other area or roll out", colour: "var(--order-4)", holds: (i) => i.order === 4 },
    ],
  },
  {
    id: "uses",
    key: "2",
    name: "Uses",
    about: "things",
    steps: [
      { label: "daily or more", colour: "var(--order-4)", holds: (i) => i.uses >= 4 },
      { label: "weekly", colour: "var(--order-3)", holds: (i) => i.uses >= 0.9 && i.uses < 4 },
      { label: "monthly", colour: "var(--order-2)", holds: (i) => i.uses >= 0.2 && i.uses < 0.9 },
      { label: "rarely", colour: "var(--order-0)", holds: (i) => i.uses < 0.2 },
    ],
  },
  { id: "free", key: "3", name: "Free", about: "walls", steps: depths.map((d) => ({ ...d, holds: () => false })) },
];

export function tintOf(lens: Lens | undefined, item: Item): string | undefined {
  return lens?.steps.find((s) => s.holds(item))?.colour;
}

/** counts says how many items each step of a lens holds, those with a home only. */
export function counts(lens: Lens, round: Round): number[] {
  const homed = round.items.filter((i) => i.place !== "");
  return lens.steps.map((s) => homed.filter(s.holds).length);
}
