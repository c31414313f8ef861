import { Choices } from "../ui/Choices";

/** PlanOrNow chooses what the stage shows while a plan is open. */
export const PlanOrNow = ({ plan, setPlan }: { plan: boolean; setPlan: (on: boolean) => void }) => (
  <Choices
    as="halves"
    label="What the stage shows"
    className="mt-2 flex border border-line"
    value={plan ? "plan" : "now"}
    choices={[
      { value: "now", name: "As it stands" },
      { value: "plan", name: "The plan" },
    ]}
    onPick={(v) => setPlan(v === "plan")}
  />
);
