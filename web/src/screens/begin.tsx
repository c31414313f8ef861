import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Begin, fetch] = later(() => import("../begin/Begin"));

function Page() {
  const { round, revision } = useBench();
  return <Begin round={round} revision={revision} />;
}

/** begin is where a new database opens, and where one goes from one shop to another. */
export const begin: Screen = { path: "/begin", name: "Shops", Page, fetch };
