import { useState } from "react";
import type { Round } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Pick } from "../ui/Pick";
import { inMonths } from "../day";
import { Comes } from "./Comes";
import { Edges } from "./Edges";
import { Stocks } from "./Stocks";
import { Calendar, Without } from "./Without";
import { Waiting } from "./Waiting";
import { useDone, useDue, usePutOff, type DueItem, type DueToday } from "./useUpkeep";

const budgets = [
  { value: "10", name: "10 min" },
  { value: "30", name: "half an hour" },
  { value: "60", name: "an hour" },
  { value: "any", name: "any time" },
] as const;

/** Upkeep is what is due today, and what it is worked out from. */
export default function Upkeep({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const [minutes, setMinutes] = useKept<"10" | "30" | "60" | "any">("upkeep minutes", "any");
  const [at, setAt] = useKept("upkeep at", "");
  const due = useDue(revision);
  const d = due.data;
  if (!d) return <p className="p-4 text-quiet">{due.error ? due.error.message : "Looking what is due …"}</p>;
  const places = [...new Set(d.due.map((x) => x.where).filter((w) => w !== ""))];
  const here = places.includes(at) ? at : "";
  const list = within(
    d.due.filter((x) => here === "" || x.where === here),
    minutes === "any" ? Infinity : Number(minutes),
  );
  return (
    <div
      className="round-scroll h-full overflow-y-auto px-4 py-3 text-body"
      tabIndex={0}
      role="region"
      aria-label="Upkeep"
      data-testid="upkeep"
    >
      <div className={phone ? "" : "grid grid-cols-[minmax(0,1fr)_minmax(0,34rem)] gap-8"}>
        <div>
          <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
            <Choices
              as="words"
              label="Time there is"
              value={minutes}
              choices={[...budgets]}
              onPick={setMinutes}
              className="flex flex-wrap gap-x-3"
            />
            {places.length > 1 && (
              <Pick
                label="Where I am"
                value={here}
                choices={[{ value: "", name: "anywhere" }, ...places.map((p) => ({ value: p, name: d.names[p] ?? p }))]}
                onPick={setAt}
              />
            )}
          </div>
          <Part title={list.length === 0 ? "Nothing is due" : list.length === 1 ? "One thing is due" : `${list.length} things are due`}>
            {list.length === 0 && (
              <p className="m-0 text-quiet">
                {d.due.length > 0
                  ? "Not here, or not in so little time."
                  : d.ahead[0]
                    ? `Next on ${d.ahead[0].due}: ${d.ahead[0].name}.`
                    : "Say under “Comes again” what is to be done, and how often."}
              </p>
            )}
            <ul className="m-0 list-none p-0" data-testid="due">
              {list.map((x) => (
                <Due key={x.what + x.id} x={x} d={d} revision={revision} />
              ))}
            </ul>
          </Part>
          {d.ahead.length > 0 && (
            <Part title="In the next sixty days">
              <ul className="m-0 list-none p-0 text-small">
                {d.ahead.slice(0, 12).map((x) => (
                  <li key={x.what + x.id} className="flex gap-3 border-b border-line py-0.5">
                    <span className="w-24 shrink-0 tabular-nums">{x.due}</span>
                    <span>{x.name}</span>
                  </li>
                ))}
              </ul>
            </Part>
          )}
          <Calendar />
        </div>
        <div>
          <Edges d={d} round={round} revision={revision} />
          <Stocks d={d} round={round} revision={revision} />
          <Comes d={d} round={round} revision={revision} />
          <Waiting d={d} round={round} revision={revision} />
          <Without d={d} revision={revision} />
        </div>
      </div>
    </div>
  );
}

/** within are the first that go into so many minutes together. */
function within(list: readonly DueItem[], minutes: number): DueItem[] {
  let left = minutes;
  return list.filter((x) => {
    if (x.minutes > left) return false;
    left -= x.minutes;
    return true;
  });
}

function Due({ x, d, revision }: { x: DueItem; d: DueToday; revision: number }) {
  const done = useDone();
  const off = usePutOff();
  const [putting, setPutting] = useState(false);
  const [until, setUntil] = useState(inMonths(1));
  const [why, setWhy] = useState("");
  return (
    <li className="border-b border-line py-1.5" data-due={x.id}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">{x.name}</span>
        {x.where !== "" && <span className="text-small">at {d.names[x.where] ?? x.where}</span>}
        <span className="ml-auto text-small text-quiet tabular-nums">
          {Math.round(x.minutes)} min, {x.due < d.day ? `since ${x.due}` : "today"}
        </span>
      </div>
      <span className="block text-small text-quiet first-letter:uppercase">{x.says}.</span>
      {x.care !== "" && <span className="block text-small text-red first-letter:uppercase">{x.care}.</span>}
      {x.what === "work" && (
        <div className="flex flex-wrap items-baseline gap-x-4">
          <Button disabled={done.isPending} onClick={() => done.mutate({ base: revision, id: x.id })}>
            Done today
          </Button>
          <Button onClick={() => setPutting(!putting)}>Put it off</Button>
          {putting && (
            <form
              className="flex flex-wrap items-baseline gap-x-3"
              onSubmit={(e) => {
                e.preventDefault();
                off.mutate({ base: revision, id: x.id, until, why });
              }}
            >
              <label>
                until{" "}
                <input value={until} onChange={(e) => setUntil(e.target.value)} className="w-28 border-b border-line bg-transparent px-1" />
              </label>
              <label>
                because{" "}
                <input value={why} onChange={(e) => setWhy(e.target.value)} className="w-48 border-b border-line bg-transparent px-1" />
              </label>
              <Button type="submit" disabled={off.isPending || why.trim() === ""}>
                Put off
              </Button>
            </form>
          )}
        </div>
      )}
    </li>
  );
}
