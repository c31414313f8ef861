import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Upkeep, fetch] = later(() => import("../upkeep/Upkeep"));

function Page() {
  const { round, revision } = useBench();
  return <Upkeep round={round} revision={revision} />;
}

/** upkeep is what is due and comes again. */
export const upkeep: Screen = { path: "/upkeep", name: "Upkeep", Page, fetch };
