import { later } from "../app/later";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";
import { useShown } from "../app/shown";

const [Survey, fetch] = later(() => import("../survey/Survey"));

function Page() {
  const { round } = useBench();
  const { lens, setLens } = useShown();
  return <Survey round={round} freeShown={lens === "free"} setFreeShown={(on) => setLens(on ? "free" : "")} />;
}

/** survey is where the room is measured. */
export const survey: Screen = { path: "/survey", name: "Survey", Page, lenses: ["free"], fetch };
