import { later } from "../app/later";
import { useNavigate } from "react-router";
import { useBench } from "../app/bench";
import type { Screen } from "../app/screens";

const [FitSheet, fetch] = later(() => import("../fit/FitSheet"));

function Panel() {
  const { round, revision, fit, plan, setPlan } = useBench();
  const navigate = useNavigate();
  const accepted = () => {
    fit.forget();
    void navigate("/round");
  };
  return <FitSheet round={round} revision={revision} fit={fit} plan={plan} setPlan={setPlan} onAccepted={accepted} />;
}

/** fit is where homes are looked for, and plans compared and taken over. */
export const fit: Screen = { path: "/fit", name: "Fit", Panel, fetch };
