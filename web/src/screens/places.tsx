import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [Places, fetch] = later(() => import("../places/Places"));

function Panel() {
  const { round, revision, propose } = useBench();
  return <Places round={round} revision={revision} onPropose={propose} />;
}

/** places is where storage is sized and put on the walls. */
export const places: Screen = { path: "/places", name: "Places", Panel, fetch };
