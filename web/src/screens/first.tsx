import { useNavigate } from "react-router";
import { useBench } from "../app/bench";
import { later } from "../app/later";
import type { Screen } from "../app/screens";

const [FirstPlan, fetch] = later(() => import("../fit/FirstPlan"));

function Panel() {
  const { round, revision, fit, plan, setPlan } = useBench();
  const navigate = useNavigate();
  const accepted = () => {
    fit.forget();
    void navigate("/round");
  };
  return <FirstPlan round={round} revision={revision} fit={fit} plan={plan} setPlan={setPlan} onAccepted={accepted} />;
}

/** first says whether enough is known, and makes the first plan in one go. */
export const first: Screen = { path: "/first", name: "First plan", Panel, fetch };
