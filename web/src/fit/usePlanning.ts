import { useNavigate } from "react-router";
import { useBench } from "../app/bench";

/** usePlanning is what a panel about plans works on; a plan that is taken over leads to the round. */
export function usePlanning() {
  const { round, revision, fit, plan, setPlan } = useBench();
  const navigate = useNavigate();
  const onAccepted = () => {
    fit.forget();
    void navigate("/round");
  };
  return { round, revision, fit, plan, setPlan, onAccepted };
}
