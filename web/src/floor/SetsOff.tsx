import { useState } from "react";
import type { Station } from "../api/client";
import { Button } from "../ui/Button";
import { distance, fixed, seconds, type Units } from "../units";
import { useSetsOff } from "./useFloor";

/** SetsOff is what bringing in a station that is only wished for would set off: what is shifted for it, in how many evenings. */
export function SetsOff({ station, units, revision }: { station: Station; units: Units; revision: number }) {
  const [asked, setAsked] = useState(false);
  const answer = useSetsOff(station.id, revision, asked);
  const a = answer.data;
  if (!asked) return <Button onClick={() => setAsked(true)}>What would it set off?</Button>;
  if (answer.error) return <p className="m-0 text-small text-red">{answer.error.message}</p>;
  if (!a) return <p className="m-0 text-small text-quiet">Looking for a spot …</p>;
  if (a.why !== "") return <p className="m-0 text-small text-red">It does not go in: {a.why}.</p>;
  const [own, ...others] = a.steps;
  const more = a.after - a.before;
  return (
    <div className="text-small" data-testid="sets-off">
      <p className="m-0">
        It would stand {own && `${distance(own.x, units)} across and ${distance(own.y, units)} in`}
        {others.length === 0 ? "; nothing else is shifted for it." : ", with these shifted:"}
      </p>
      {others.length > 0 && (
        <ol className="m-0 list-none p-0">
          {others.map((s) => (
            <li key={s.id} className="flex justify-between gap-2 border-b border-line">
              <span>{s.name}</span>
              <span className="narrow text-quiet">
                {s.state === "folded" ? "folded" : `to ${distance(s.x, units)}, ${distance(s.y, units)}`}
              </span>
            </li>
          ))}
        </ol>
      )}
      {a.nights.length > 0 && (
        <p className="m-0">
          {fixed(Math.max(1, Math.round(a.minutes)), 0)} min in {a.nights.length === 1 ? "one evening" : `${a.nights.length} evenings`}
          {Math.abs(more) >= 1 && `; getting things takes ${seconds(Math.abs(more))} a week ${more > 0 ? "more" : "less"} then`}.
        </p>
      )}
    </div>
  );
}
