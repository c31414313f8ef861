import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Supply, fetch] = later(() => import("../supply/Supply"));

function Page() {
  const { round, revision } = useBench();
  return <Supply round={round} revision={revision} />;
}

/** supply is power, extraction, air, light and noise: what the room gives, and where it reaches. */
export const supply: Screen = { path: "/supply", name: "Supply", Page, fetch };
