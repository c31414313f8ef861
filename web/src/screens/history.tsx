import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [History, fetch] = later(() => import("../history/History"));

function Page() {
  const { round, revision } = useBench();
  return <History round={round} revision={revision} />;
}

/** history is every change there was. */
export const history: Screen = { path: "/history", name: "History", Page, fetch };
