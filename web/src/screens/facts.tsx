import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Facts, fetch] = later(() => import("../facts/Facts"));

function Page() {
  const { round, revision } = useBench();
  return <Facts round={round} revision={revision} />;
}

/** facts is what holds for the whole shop: people, units, what may be fixed. */
export const facts: Screen = { path: "/facts", name: "Facts", Page, fetch };
