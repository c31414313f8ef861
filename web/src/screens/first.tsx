import { later } from "../app/later";
import type { Screen } from "../app/screens";
import { usePlanning } from "../fit/usePlanning";

const [FirstPlan, fetch] = later(() => import("../fit/FirstPlan"));

function Panel() {
  return <FirstPlan {...usePlanning()} />;
}

/** first says whether enough is known, and makes the first plan in one go. */
export const first: Screen = { path: "/first", name: "First plan", Panel, fetch };
