import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Evenings, fetch] = later(() => import("../evenings/Evenings"));

function Page() {
  const { round, revision } = useBench();
  return <Evenings round={round} revision={revision} />;
}

/** evenings is where a plan is carried out, an evening at a time. */
export const evenings: Screen = { path: "/evenings", name: "Evenings", Page, fetch };
