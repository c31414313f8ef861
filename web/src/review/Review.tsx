import { useState } from "react";
import { at } from "../api/base";
import type { Round } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { fixed, percent, seconds, squares, type Units } from "../units";
import { Aims } from "./Aims";
import { Month } from "./Month";
import { NextRoom } from "./NextRoom";
import { useDays, useForget, useKeep, usePhotoOf, useReviewed, type KeptDays, type Reviewed } from "./useReview";

/** figure of a review, in words. */
export function figure(what: string, v: number, units: Units): string {
  if (what === "handling") return seconds(v);
  if (what === "untouched" || what === "in-order") return percent(v);
  if (what === "open-floor" || what === "unused-m2" || what === "household" || what === "creep") return squares(v, units);
  return fixed(v, 0);
}

const called = (d: { day: string; name: string }) => (d.name ? `${d.day}, ${d.name}` : d.day);

/** Review keeps how the shop is on a day, and sets two days side by side. */
export default function Review({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const days = useDays(revision);
  const keep = useKeep();
  const forget = useForget();
  const [name, setName] = useState("");
  const [from, setFrom] = useKept("review from", 0);
  const [to, setTo] = useKept("review to", 0);
  const d = days.data;
  const first = d?.days[0]?.id ?? 0;
  const a = d?.days.some((x) => x.id === from) ? from : first;
  const b = d?.days.some((x) => x.id === to) ? to : 0;
  const review = useReviewed(a, b, revision).data;
  if (!d) return <p className="p-4 text-quiet">{days.error ? days.error.message : "Looking at the days that are kept …"}</p>;
  return (
    <div
      className="round-scroll h-full overflow-y-auto px-4 py-3 text-body"
      tabIndex={0}
      role="region"
      aria-label="Review"
      data-testid="review"
    >
      <div className={phone ? "" : "grid grid-cols-[minmax(0,1fr)_minmax(0,34rem)] gap-8"}>
        <div>
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            {d.days.length > 0 && (
              <>
                <Pick
                  label="From"
                  value={String(a)}
                  choices={d.days.map((x) => ({ value: String(x.id), name: called(x) }))}
                  onPick={(v) => setFrom(Number(v))}
                />
                <span>to</span>
                <Pick
                  label="To"
                  value={String(b)}
                  choices={[{ value: "0", name: "now" }, ...d.days.map((x) => ({ value: String(x.id), name: called(x) }))]}
                  onPick={(v) => setTo(Number(v))}
                />
                <a href={at(`/api/v1/review/page?from=${a}&to=${b}`)} className="font-semibold text-blue hover:underline">
                  As a page to print or give
                </a>
              </>
            )}
            <form
              className="flex items-baseline gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                keep.mutate(name.trim(), { onSuccess: () => setName("") });
              }}
            >
              <input
                aria-label="What today is called"
                placeholder="spring, before the move"
                value={name}
                onChange={(e) => setName(e.target.value)}
                className="w-48 border-b border-line bg-transparent px-1 placeholder:text-quiet"
              />
              <Button kind={d.days.length === 0 ? "main" : "plain"} type="submit" disabled={keep.isPending}>
                Keep how it is today
              </Button>
            </form>
          </div>
          {d.days.length === 0 ? (
            <p className="max-w-160 text-quiet">
              No day is kept yet. Keep today: in a season or a year you see what moved, came and went, what gathered dust, and whether your
              aims were reached. A kept day stays as it was, whatever you change.
            </p>
          ) : (
            review && <Side r={review} units={round.units} round={round} />
          )}
        </div>
        <div>
          <Aims d={d} units={round.units} revision={revision} />
          <Month round={round} revision={revision} />
          {review && review.shares.length > 0 && <Shares r={review} />}
          <NextRoom round={round} />
          {d.days.length > 0 && <Days d={d} onForget={(id) => forget.mutate(id)} />}
        </div>
      </div>
    </div>
  );
}

/** Side is two days side by side. */
function Side({ r, units, round }: { r: Reviewed; units: Units; round: Round }) {
  const name = (id: string) => round.items.find((i) => i.id === id)?.name ?? id;
  return (
    <>
      <Part title={`${r.from} to ${r.to}`}>
        {r.form !== "" && <p className="m-0 text-small text-quiet">{r.form}.</p>}
        <table className="w-full border-collapse" data-testid="figures">
          <thead>
            <tr>
              <th className="border-b border-ink py-1 text-left font-normal text-quiet"></th>
              <th className="border-b border-ink py-1 pl-3 text-right font-normal text-quiet">then</th>
              <th className="border-b border-ink py-1 pl-3 text-right font-normal text-quiet">now</th>
            </tr>
          </thead>
          <tbody>
            {r.figures
              .filter((f) => f.then !== 0 || f.now !== 0)
              .map((f) => (
                <tr key={f.what}>
                  <td className="border-b border-line py-0.5">{f.called}</td>
                  <td className="border-b border-line py-0.5 pl-3 text-right whitespace-nowrap tabular-nums">
                    {figure(f.what, f.then, units)}
                  </td>
                  <td className="border-b border-line py-0.5 pl-3 text-right font-semibold whitespace-nowrap tabular-nums">
                    {figure(f.what, f.now, units)}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
        <p className="m-0 mt-1" data-testid="went">
          {r.came.length} came, {r.went.length} went, {r.moved.length} moved, {r.same} live where they did. {percent(r.untaken)} were not
          used between the two days and take {squares(r.untaken_m2, units)}.
        </p>
        {[
          { says: "Came", list: r.came },
          { says: "Went", list: r.went },
          { says: "Moved", list: r.moved },
        ].map(
          (x) =>
            x.list.length > 0 && (
              <details key={x.says}>
                <summary className="cursor-pointer font-semibold text-blue">{x.says}</summary>
                <p className="m-0 text-small">{x.list.map((c) => c.name).join(", ")}</p>
              </details>
            ),
        )}
      </Part>
      <Part title="Ten questions">
        <ol className="m-0 pl-5" data-testid="asked">
          {r.asked.map((q) => (
            <li key={q.asks} className="py-0.5">
              <b>{q.asks}</b> <span className="first-letter:uppercase">{q.says}.</span>
              {q.things.length > 0 && <span className="block text-small text-quiet">{q.things.map(name).join(", ")}</span>}
            </li>
          ))}
        </ol>
      </Part>
    </>
  );
}

function Shares({ r }: { r: Reviewed }) {
  return (
    <Part title="Room against use">
      <ul className="m-0 list-none p-0" data-testid="shares">
        {r.shares.slice(0, 10).map((x) => (
          <li key={x.group} className="flex justify-between gap-3 border-b border-line py-0.5">
            <span>{x.group}</span>
            <span className={`tabular-nums ${x.room > 2 * x.uses && x.room > 0.05 ? "text-red" : "text-quiet"}`}>
              {percent(x.room)} of the room, {percent(x.uses)} of the uses
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Days({ d, onForget }: { d: KeptDays; onForget: (id: number) => void }) {
  const photo = usePhotoOf();
  const [wall, setWall] = useState(d.walls[0] ?? "");
  return (
    <Part title="Days that are kept">
      <ul className="m-0 list-none p-0" data-testid="days">
        {d.days.map((x) => (
          <li key={x.id} className="border-b border-line py-1">
            <span className="flex flex-wrap items-baseline gap-x-3">
              {called(x)}
              <label className="ml-auto cursor-pointer font-semibold text-blue hover:underline">
                Photo of wall {wall.split("/")[1]}
                <input
                  type="file"
                  accept="image/*"
                  className="sr-only"
                  onChange={(e) => {
                    const file = e.target.files?.[0];
                    if (file) photo.mutate({ id: x.id, wall, file });
                    e.target.value = "";
                  }}
                />
              </label>
              <Button onClick={() => onForget(x.id)}>Forget it</Button>
            </span>
            {x.photos.length > 0 && (
              <span className="flex flex-wrap gap-2 pt-1">
                {x.photos.map((p) => (
                  <figure key={p.wall} className="m-0">
                    <img
                      src={at(`/api/v1/photos/${p.name}?small=true`)}
                      alt={`wall ${p.wall.split("/")[1] ?? ""} on ${x.day}`}
                      className="h-24"
                    />
                    <figcaption className="text-small text-quiet">wall {p.wall.split("/")[1]}</figcaption>
                  </figure>
                ))}
              </span>
            )}
          </li>
        ))}
      </ul>
      <span className="flex items-baseline gap-1 text-small">
        photos are of
        <Pick
          label="Wall that a photo is of"
          value={wall}
          choices={d.walls.map((w) => ({ value: w, name: `wall ${w.split("/")[1] ?? w}, ${w.split("/")[0] ?? ""}` }))}
          onPick={setWall}
        />
      </span>
    </Part>
  );
}
