import type { Item, Place, Round } from "../api/client";

/** A lens recolours the stage by one question. */
export interface Lens {
  id: string;
  key: string;
  name: string;
  /** what it colours: the things, the places they live in, the walls behind them, or the outlets on them */
  about: "things" | "places" | "walls" | "outlets";
  steps: { label: string; colour: string; holds: (item: Item) => boolean; takes?: (place: Place) => boolean }[];
}

const none = () => false;

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
  { id: "free", key: "3", name: "Free", about: "walls", steps: [] },
  {
    id: "load",
    key: "4",
    name: "Load",
    about: "places",
    steps: [
      { label: "over its rating", colour: "var(--order-4)", holds: none, takes: (p) => p.capacity > 0 && p.kg > p.capacity },
      {
        label: "over three quarters",
        colour: "var(--order-3)",
        holds: none,
        takes: (p) => p.capacity > 0 && p.kg > 0.75 * p.capacity && p.kg <= p.capacity,
      },
      { label: "less", colour: "var(--order-1)", holds: none, takes: (p) => p.capacity > 0 && p.kg <= 0.75 * p.capacity },
      { label: "not rated", colour: "var(--order-0)", holds: none, takes: (p) => p.capacity === 0 },
    ],
  },
  {
    id: "fill",
    key: "5",
    name: "Fill",
    about: "places",
    steps: [
      { label: "full, over 85 %", colour: "var(--order-4)", holds: none, takes: (p) => p.fill > 0.85 },
      { label: "60 to 85 %", colour: "var(--order-3)", holds: none, takes: (p) => p.fill > 0.6 && p.fill <= 0.85 },
      { label: "some room", colour: "var(--order-2)", holds: none, takes: (p) => p.fill > 0 && p.fill <= 0.6 },
      { label: "empty", colour: "var(--order-0)", holds: none, takes: (p) => p.fill === 0 },
    ],
  },
  {
    id: "supply",
    key: "6",
    name: "Supply",
    about: "outlets",
    steps: [
      { label: "over 80 % of its breaker, or a cord too short", colour: "var(--order-4)", holds: none },
      { label: "in use", colour: "var(--order-2)", holds: none },
      { label: "nothing plugged in", colour: "var(--order-0)", holds: none },
    ],
  },
];

/** plugged is the step of an outlet by what is plugged into it. */
export function plugged(o: { machines: readonly string[]; amps: number; rated: number; short: boolean }): number {
  if (o.short || (o.rated > 0 && o.amps > 0.8 * o.rated + 1e-9)) return 0;
  return o.machines.length > 0 ? 1 : 2;
}

/** shade is the colour a lens gives a place. */
export function shade(lens: Lens | undefined, place: Place): string | undefined {
  return lens?.about === "places" ? lens.steps.find((s) => s.takes?.(place))?.colour : undefined;
}

export function tintOf(lens: Lens | undefined, item: Item): string | undefined {
  return lens?.steps.find((s) => s.holds(item))?.colour;
}

/** counts says how many items each step of a lens holds, those with a home only. */
export function counts(lens: Lens, round: Round): number[] {
  if (lens.about === "places") return lens.steps.map((s) => round.places.filter((p) => s.takes?.(p)).length);
  const homed = round.items.filter((i) => i.place !== "");
  return lens.steps.map((s) => homed.filter(s.holds).length);
}
