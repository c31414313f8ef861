import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Out, fetch] = later(() => import("../daily/Out"));

function Page() {
  const { round, revision } = useBench();
  return <Out round={round} revision={revision} />;
}

/** out is what is out of its home, and the round in the evening. */
export const out: Screen = { path: "/out", name: "Out", Page, fetch };
