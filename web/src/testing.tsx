import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render } from "@testing-library/react";
import { act, type ReactNode } from "react";
import { MemoryRouter } from "react-router";
import type { Item, Place, Round } from "./api/client";
import { ShownProvider } from "./app/shown";
import { Hints } from "./ui/Hint";

/** show renders into a fresh page with everything the parts expect round them. */
export async function show(ui: ReactNode, at = "/round"): Promise<HTMLElement> {
  cleanup();
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const { container } = render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <ShownProvider>
          <Hints>{ui}</Hints>
        </ShownProvider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  await settle();
  return container;
}

/** settle lets promises and effects run. */
export const settle = () => act(async () => new Promise((r) => setTimeout(r, 5)));

export async function press(target: Element, key: string) {
  fireEvent.keyDown(target, { key });
  await settle();
}

export async function type(input: HTMLInputElement, text: string) {
  fireEvent.input(input, { target: { value: text } });
  await settle();
}

export function item(p: Partial<Item>): Item {
  return {
    id: "plane",
    name: "Plane",
    kind: "plane",
    glyph: "plane",
    family: "",
    count: 1,
    w: 65,
    h: 360,
    d: 140,
    kg: 2.3,
    uses: 3,
    used_at: ["bench"],
    hold: ["hang"],
    flags: [],
    assumed: [],
    place: "",
    homed: 0,
    lies: "",
    whose: "",
    locked: false,
    elevation: -1,
    hidden: false,
    pieces: [],
    order: 0,
    seconds: 180,
    out: false,
    photos: [],
    status: "",
    keep: false,
    notes: "",
    with: [],
    set_up: "",
    due: "",
    trip: "",
    ...p,
  };
}

export function place(p: Partial<Place>): Place {
  return {
    id: "B1",
    name: "Field",
    kind: "wall-field",
    word: "wall field",
    style: "board",
    elevation: 0,
    host: "",
    x: 0,
    z: 900,
    w: 2000,
    h: 1000,
    d: 200,
    access: [],
    closed: false,
    lines: [],
    kg: 0,
    capacity: 0,
    dense: false,
    dull: "",
    sides: true,
    items: 0,
    seconds: 0,
    fill: 0,
    labelled: false,
    order: "",
    pictured: "",
    photos: [],
    ...p,
  };
}

export function round(p: Partial<Round>): Round {
  return {
    name: "Test",
    units: "metric",
    mode: "",
    figure: {
      stature: 1680,
      left_handed: false,
      knee: 504,
      fingertip: 658,
      shoulder: 1399,
      elbow: 1083,
      eye: 1597,
      stretch: 2297,
      step: 2697,
    },
    elevations: [
      {
        id: "A",
        area: "main",
        title: "Wall A",
        middle: false,
        claimed: true,
        surface: "boards",
        offset: 0,
        length: 4000,
        profile: [
          [0, 2400],
          [4000, 2400],
        ],
        studs: [],
        features: [],
        reach: [],
      },
    ],
    places: [],
    things: [],
    items: [],
    wished: [],
    one_out: false,
    people: [],
    comma: false,
    fresh: false,
    plan: { rooms: [], things: [], stations: [] },
    totals: { seconds: 0, lines: 0, homeless: 0, pieces: 0, orders: [0, 0, 0, 0, 0] },
    ...p,
  };
}
