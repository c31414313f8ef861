import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Review, fetch] = later(() => import("../review/Review"));

function Page() {
  const { round, revision } = useBench();
  return <Review round={round} revision={revision} />;
}

/** review is days that are kept, side by side. */
export const review: Screen = { path: "/review", name: "Review", Page, fetch };
