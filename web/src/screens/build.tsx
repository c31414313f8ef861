import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Build, fetch] = later(() => import("../build/Build"));

function Page() {
  const { round, revision } = useBench();
  return <Build round={round} revision={revision} />;
}

/** build is how storage is made: parts, drawings, screws in the wall. */
export const build: Screen = { path: "/build", name: "Build", Page, fetch };
