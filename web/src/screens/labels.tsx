import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Labels, fetch] = later(() => import("../labels/Labels"));

function Page() {
  const { round, revision } = useBench();
  return <Labels round={round} revision={revision} />;
}

/** labels are what stands on places and boxes, on sheets to print. */
export const labels: Screen = { path: "/labels", name: "Labels", Page, fetch };
