import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Projects, fetch] = later(() => import("../projects/Projects"));

function Page() {
  const { round, revision } = useBench();
  return <Projects round={round} revision={revision} />;
}

/** projects is what is being made. */
export const projects: Screen = { path: "/projects", name: "Projects", Page, fetch };
