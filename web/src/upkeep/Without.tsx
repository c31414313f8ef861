import { useState } from "react";
import { at } from "../api/base";
import { inMonths } from "../day";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { useFeed, useSetRecords, type DueToday } from "./useUpkeep";

const field = "border-b border-line bg-transparent px-1 placeholder:text-quiet";

/** Without are trials of doing without something, and what one would not do again. */
export function Without({ d, revision }: { d: DueToday; revision: number }) {
  const set = useSetRecords();
  const [t, setT] = useState({ without: "", instead: "", lost: "", review: inMonths(2) });
  const [r, setR] = useState({ kind: "", says: "" });
  return (
    <>
      <Part title="Doing without">
        <ul className="m-0 list-none p-0" data-testid="trials">
          {d.trials.map((x) => (
            <li key={x.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
              <span>
                {x.without}
                {x.instead && <span className="text-small text-quiet">, {x.instead} instead</span>}
                {x.lost && <span className="text-small text-quiet">, not possible: {x.lost}</span>}
              </span>
              <span className="ml-auto text-small text-quiet">
                {x.state === "goes" ? "it went" : x.state === "stays" ? "it stayed" : `since ${x.since}, judged on ${x.review}`}
              </span>
              {!x.state &&
                (["goes", "stays"] as const).map((state) => (
                  <Button
                    key={state}
                    disabled={set.isPending}
                    onClick={() =>
                      set.mutate({ base: revision, body: { trials: d.trials.map((o) => (o.id === x.id ? { ...o, state } : o)) } })
                    }
                  >
                    {state === "goes" ? "It can go" : "It stays"}
                  </Button>
                ))}
            </li>
          ))}
        </ul>
        <form
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            set.mutate(
              { base: revision, body: { trials: [...d.trials, { id: "", ...t }] } },
              { onSuccess: () => setT({ without: "", instead: "", lost: "", review: inMonths(2) }) },
            );
          }}
        >
          {(
            [
              ["without", "do without", "mitre saw", "w-36"],
              ["instead", "use instead", "hand saw and box", "w-40"],
              ["lost", "gives up", "long mitres", "w-32"],
              ["review", "judge on", "2027-05-31", "w-28"],
            ] as const
          ).map(([k, says, example, wide]) => (
            <label key={k} className="flex items-baseline gap-1">
              {says}
              <input
                value={t[k]}
                placeholder={example}
                onChange={(e) => setT({ ...t, [k]: e.target.value })}
                className={`${field} ${wide}`}
              />
            </label>
          ))}
          <Button type="submit" disabled={set.isPending || t.without.trim() === ""}>
            Try it
          </Button>
        </form>
      </Part>
      <Part title="Not again">
        <ul className="m-0 list-none p-0" data-testid="regrets">
          {d.regrets.map((x) => (
            <li key={x.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
              <b>{x.kind}</b> {x.says}
              <span className="ml-auto" />
              <Button
                disabled={set.isPending}
                onClick={() => set.mutate({ base: revision, body: { regrets: d.regrets.filter((o) => o.id !== x.id) } })}
              >
                Forget it
              </Button>
            </li>
          ))}
        </ul>
        <form
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            set.mutate(
              { base: revision, body: { regrets: [...d.regrets, { id: "", ...r }] } },
              { onSuccess: () => setR({ kind: "", says: "" }) },
            );
          }}
        >
          <label className="flex items-baseline gap-1">
            about
            <input value={r.kind} placeholder="lathe" onChange={(e) => setR({ ...r, kind: e.target.value })} className={`${field} w-28`} />
          </label>
          <label className="flex flex-1 items-baseline gap-1">
            what
            <input
              value={r.says}
              placeholder="sold it and bought another a year later"
              onChange={(e) => setR({ ...r, says: e.target.value })}
              className={`${field} w-full`}
            />
          </label>
          <Button type="submit" disabled={set.isPending || r.kind.trim() === "" || r.says.trim() === ""}>
            Keep it in mind
          </Button>
        </form>
        <p className="m-0 text-small text-quiet">It is shown when something of that kind is to leave.</p>
      </Part>
    </>
  );
}

/** Calendar is the file and the feed of what is due. */
export function Calendar() {
  const [asked, setAsked] = useState(false);
  const feed = useFeed(asked);
  return (
    <Part title="For a calendar">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <a href={at("/api/v1/due/calendar")} className="font-semibold text-blue hover:underline">
          What is due as a calendar file
        </a>
        <a href={at("/api/v1/cautions/page")} className="font-semibold text-blue hover:underline">
          All cautions on a page, for beside the door
        </a>
        {!asked && <Button onClick={() => setAsked(true)}>An address that a calendar reads by itself</Button>}
      </div>
      {feed.path && (
        <p className="m-0 mt-1 text-small" data-testid="feed">
          <code className="break-all">{window.location.origin + feed.path}</code>{" "}
          <Button onClick={() => void feed.change()}>Another address</Button>
          <span className="block text-quiet">
            Whoever knows it reads what is due, also without the pass phrase. With another address the old one answers no more.
          </span>
        </p>
      )}
    </Part>
  );
}
