import type { ComponentType } from "react";
import { begin } from "../screens/begin";
import { belongings } from "../screens/belongings";
import { devices } from "../screens/devices";
import { evenings } from "../screens/evenings";
import { facts } from "../screens/facts";
import { find } from "../screens/find";
import { first } from "../screens/first";
import { fit } from "../screens/fit";
import { floor } from "../screens/floor";
import { history } from "../screens/history";
import { labels } from "../screens/labels";
import { look } from "../screens/look";
import { out } from "../screens/out";
import { places } from "../screens/places";
import { round } from "../screens/round";
import { supply } from "../screens/supply";
import { survey } from "../screens/survey";
import { ticks } from "../screens/ticks";
import { build } from "../screens/build";
import { upkeep } from "../screens/upkeep";
import { projects } from "../screens/projects";
import { review } from "../screens/review";
import { wood } from "../screens/wood";

/** Screen is one way of working at the bench. */
export interface Screen {
  path: string;
  name: string;
  /** fills the window below the top line */
  Page?: ComponentType;
  /** lenses a page has a use for; what shows the round has all of them */
  lenses?: readonly string[];
  /** stands beside the round; the shop as it stands when there is none */
  Panel?: ComponentType;
  /** gets the code of the screen before somebody opens it */
  fetch?: () => Promise<unknown>;
}

/** Group is a stage of the work with its screens. */
export interface Group {
  name: string;
  screens: readonly Screen[];
}

/** groups in the order of the work, as they are in the top line. */
export const groups: readonly Group[] = [
  { name: "Room", screens: [survey, floor, supply] },
  { name: "Things", screens: [belongings, ticks, wood] },
  { name: "Storage", screens: [places, build, labels, look] },
  { name: "Homes", screens: [round, fit, first] },
  { name: "Today", screens: [find, out, evenings] },
  { name: "Keeping", screens: [upkeep, projects, review] },
  { name: "The shop", screens: [history, facts, begin] },
];

/** beside are screens one comes to from others, and by their name. */
const beside: readonly Screen[] = [devices];

/** screens are all there are. */
export const screens: readonly Screen[] = [...groups.flatMap((g) => g.screens), ...beside];

/** thumbed are the screens under the thumb on a phone; the others are one press further. */
export const thumbed: readonly Screen[] = [find, round, belongings, places];

/** home is where one comes to by an address that nothing is at. */
export const home = round;
