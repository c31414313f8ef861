import { later } from "../app/later";
import type { Screen } from "../app/screens";
import { usePlanning } from "../fit/usePlanning";

const [FitSheet, fetch] = later(() => import("../fit/FitSheet"));

function Panel() {
  return <FitSheet {...usePlanning()} />;
}

/** fit is where homes are looked for, and plans compared and taken over. */
export const fit: Screen = { path: "/fit", name: "Fit", Panel, fetch };
