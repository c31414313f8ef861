import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Floor, fetch] = later(() => import("../floor/Floor"));

function Page() {
  const { round, revision } = useBench();
  return <Floor round={round} revision={revision} />;
}

/** floor is where benches and machines are put. */
export const floor: Screen = { path: "/floor", name: "Floor", Page, fetch };
