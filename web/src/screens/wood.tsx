import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Wood, fetch] = later(() => import("../wood/Wood"));

function Page() {
  const { round, revision } = useBench();
  return <Wood round={round} revision={revision} />;
}

/** wood is the boards, sheets and offcuts: what there is, what it serves for, how it is cut. */
export const wood: Screen = { path: "/wood", name: "Wood", Page, fetch };
