import { X } from "lucide-react";
import { Link } from "react-router";
import type { Between, BetweenThing } from "../api/client";
import { Part, Row } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { day, seconds } from "../units";
import { dayOf, timeOf } from "./changed";
import { useBetween } from "./useHistory";

/** facts of the shop file in words. */
const facts: Record<string, string> = {
  w: "width",
  h: "height",
  d: "depth",
  kg: "weight",
  uses_per_week: "how often it is used",
  used_at: "where it is used",
  hold: "how it is held",
  count: "how many",
  name: "name",
  kind: "kind",
  family: "family",
  flags: "cautions",
  assumed: "what is assumed",
  photos: "photos",
  status: "status",
  keep: "keep",
  notes: "notes",
  capacity: "what it may carry",
  corners: "shape",
  walls: "walls",
  ceiling: "ceiling",
  floor: "floor",
  survey: "measurements",
  access: "doors",
  area: "room",
};

const said = (list: string[]) => list.map((f) => facts[f] ?? f.replaceAll("_", " ")).join(", ");

/** Compare shows what is otherwise between two moments of the shop; without a later one, until now. */
export function Compare({ from, to, revision, onClose }: { from: number; to: number; revision: number; onClose: () => void }) {
  const answer = useBetween(from, to || revision);
  const b = answer.data;
  return (
    <section aria-label="Comparison" className="w-100 shrink-0 self-start border border-line bg-sheet px-4 py-3 max-lg:w-full">
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-head font-bold">What changed</h2>
        <Button kind="tool" label="Close the comparison" onClick={onClose}>
          <X size={16} aria-hidden />
        </Button>
      </div>
      {answer.isError && <p className="text-red">{answer.error.message}</p>}
      {answer.isPending && <p className="text-quiet">Comparing…</p>}
      {b && (
        <>
          <p className="text-small text-quiet">
            From {when(b.from)} to {to ? when(b.to) : "now"}
          </p>
          <Part title="In figures">
            <Row label="things" value={step(b.from.items, b.to.items, String)} />
            <Row label="without a home" value={step(b.from.homeless, b.to.homeless, String)} />
            <Row strong label="weekly handling" value={step(b.from.seconds, b.to.seconds, seconds)} />
          </Part>
          <Things
            title="Moved"
            list={b.moved}
            more={(m) => (m.from === m.to ? `within ${m.to || "no home"}` : `${m.from || "no home"} → ${m.to || "no home"}`)}
          />
          <Things title="Added" list={b.added} more={(t) => (t.kind === "item" ? "" : t.kind)} />
          <Things title="Gone" list={b.gone} more={(t) => (t.kind === "item" ? "" : t.kind)} gone />
          <Things title="Changed" list={b.changed} more={(c) => said(c.facts)} />
          {b.moved.length + b.added.length + b.gone.length + b.changed.length === 0 && <p className="mt-2">Nothing is different.</p>}
        </>
      )}
    </section>
  );
}

const when = (m: Between["from"]) => `${day(dayOf(m))}, ${timeOf(m)}`;

const step = (a: number, b: number, write: (n: number) => string) => (write(a) === write(b) ? write(b) : `${write(a)} → ${write(b)}`);

/** most of a list are shown at first. */
const most = 60;

function Things<T extends BetweenThing>({ title, list, more, gone }: { title: string; list: T[]; more: (t: T) => string; gone?: boolean }) {
  if (list.length === 0) return null;
  return (
    <Part title={`${title}: ${list.length}`}>
      <ul className="m-0 list-none p-0 text-small" aria-label={title}>
        {list.slice(0, most).map((t) => (
          <li key={`${t.kind} ${t.id}`} className="flex justify-between gap-3 py-px">
            <span className="min-w-0">
              {!gone && (t.kind === "item" || t.kind === "place") ? (
                <Link className="text-blue" to={{ pathname: "/round", search: `on=${encodeURIComponent(`${t.kind}:${t.id}`)}` }}>
                  {t.name}
                </Link>
              ) : (
                t.name
              )}
            </span>
            <span className="shrink-0 text-quiet">{more(t)}</span>
          </li>
        ))}
      </ul>
      {list.length > most && <p className="text-small text-quiet">and {list.length - most} more</p>}
    </Part>
  );
}
