import { useState } from "react";
import type { Round } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { fixed, metres, seconds } from "../units";
import { Pick } from "../ui/Pick";
import { useMonth, useTargets } from "./useReview";

/** Month is a month played through many times, as it stands. */
export function Month({ round, revision }: { round: Round; revision: number }) {
  const [asked, setAsked] = useState(false);
  const [plan, setPlan] = useState("");
  const plans = useTargets(revision).data ?? [];
  const m = useMonth(asked, 1, revision).data;
  const then = useMonth(asked && plan !== "", 1, revision, plan).data;
  const row = (name: string, x: { mean: number; p10: number; p90: number }, says: (v: number) => string) => (
    <li className="flex justify-between gap-3 border-b border-line py-0.5">
      <span>{name}</span>
      <span className="tabular-nums">
        <b>{says(x.mean)}</b>{" "}
        <span className="text-quiet">
          from {says(x.p10)} to {says(x.p90)}
        </span>
      </span>
    </li>
  );
  return (
    <Part title="A month played through">
      {plans.length > 0 && (
        <span className="flex items-baseline gap-1">
          beside
          <Pick
            label="Plan to play beside it"
            value={plan}
            choices={[{ value: "", name: "no plan" }, ...plans.map((t) => ({ value: t.id, name: t.name }))]}
            onPick={setPlan}
          />
        </span>
      )}
      {!asked && <Button onClick={() => setAsked(true)}>Play a thousand months</Button>}
      {asked && !m && <p className="m-0 text-quiet">Playing …</p>}
      {m && then && plan !== "" && (
        <p className="m-0" data-testid="month-then">
          With that plan fetching takes {seconds(then.handling.mean)} a month, from {seconds(then.handling.p10)} to{" "}
          {seconds(then.handling.p90)}:{" "}
          {then.handling.mean <= m.handling.mean
            ? `${seconds(m.handling.mean - then.handling.mean)} less.`
            : `${seconds(then.handling.mean - m.handling.mean)} more.`}
        </p>
      )}
      {m && (
        <div data-testid="month">
          <ul className="m-0 list-none p-0">
            {row("fetching and putting back", m.handling, seconds)}
            {row("carrying the material of jobs", m.walking, (v) => metres(v, round.units, 0))}
            {row("change-overs of the floor", m.changes, (v) => fixed(v, 0))}
            {row("times something annoys", m.annoying, (v) => fixed(v, 0))}
          </ul>
          <p className="m-0 mt-1 text-small text-quiet">
            Eight of ten months lie in between.{" "}
            {m.usual
              ? "Nobody said what is made: a usual job is played. Say your own under Floor, Flow."
              : "By your own jobs, drawn at random."}{" "}
            {m.never_used.length > 0 &&
              `Hardly ever used in a month: ${m.never_used
                .slice(0, 12)
                .map((id) => round.items.find((i) => i.id === id)?.name ?? id)
                .join(", ")}${m.never_used.length > 12 ? ` and ${m.never_used.length - 12} more` : ""}.`}
          </p>
        </div>
      )}
    </Part>
  );
}
