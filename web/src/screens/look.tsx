import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Look, fetch] = later(() => import("../look/Look"));

function Page() {
  const { round, revision } = useBench();
  return <Look round={round} revision={revision} />;
}

/** look is walking round to see whether everything is where it lives, and what a label's code opens. */
export const look: Screen = { path: "/look", name: "Look round", Page, fetch };
