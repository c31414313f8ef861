import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Ticks, fetch] = later(() => import("../belongings/Ticks"));

function Page() {
  const { round, revision } = useBench();
  return <Ticks round={round} revision={revision} />;
}

/** ticks lists common things to tick off, place by place: the fastest way to say what is where. */
export const ticks: Screen = { path: "/ticks", name: "Tick list", Page, fetch };
