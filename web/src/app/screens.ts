import type { ComponentType } from "react";
import { belongings } from "../screens/belongings";
import { find } from "../screens/find";
import { fit } from "../screens/fit";
import { history } from "../screens/history";
import { places } from "../screens/places";
import { round } from "../screens/round";
import { survey } from "../screens/survey";

/** Screen is one way of working at the bench. */
export interface Screen {
  path: string;
  name: string;
  /** fills the window below the top line */
  Page?: ComponentType;
  /** stands beside the round; the shop as it stands when there is none */
  Panel?: ComponentType;
}

/** screens in the order of the work, as they are in the top line. */
export const screens: readonly Screen[] = [survey, belongings, places, round, fit, find, history];

/** home is where one comes to by an address that nothing is at. */
export const home = round;
