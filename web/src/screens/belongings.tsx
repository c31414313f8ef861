import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Belongings, fetch] = later(() => import("../belongings/Belongings"));

function Page() {
  const { round, revision, startFit } = useBench();
  return <Belongings round={round} revision={revision} onFit={startFit} />;
}

/** belongings is the list of what there is. */
export const belongings: Screen = { path: "/belongings", name: "Belongings", Page, fetch };
