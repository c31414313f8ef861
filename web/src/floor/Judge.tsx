import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, onto, unwrap, type Judged, type Round, type Station } from "../api/client";
import { useChange } from "../app/shop";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { TypedIn } from "../ui/TypedIn";
import { Labelled } from "../ui/Labelled";
import { distance, figure, fixed, metres, seconds, squares, type Units } from "../units";

/** useJudged is how the floor is used in a mode. */
export function useJudged(mode: string, revision: number, enabled: boolean): Judged | undefined {
  return useQuery({
    queryKey: keys.judged(mode, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/floor-judged", { params: { query: { ...(mode !== "" && { mode }) } } })),
    placeholderData: (before) => before,
    enabled,
  }).data;
}

const more = "text-small text-quiet";

/** Judge is what annoys most, what the floor is kept for, and how high one works. */
export function Judge({ judged, units }: { judged: Judged | undefined; units: Units }) {
  if (!judged) return <p className="m-0 text-small text-quiet">Working it out …</p>;
  const off = judged.heights.filter((h) => h.off !== 0);
  const chains = judged.chains.filter((c) => c.week >= 1).slice(0, 10);
  return (
    <div
      role="region"
      className="round-scroll min-h-0 flex-1 overflow-y-auto text-body"
      tabIndex={0}
      aria-label="The floor judged"
      data-testid="judge"
    >
      <h2 className="m-0 text-body font-bold">What annoys most</h2>
      {chains.length === 0 ? (
        <p className={`m-0 ${more}`}>Nothing has to be moved or opened twice before it can be used.</p>
      ) : (
        <ol className="m-0 list-none p-0">
          {chains.map((c) => (
            <li key={c.kind + c.id} className="border-b border-line py-0.5">
              <span className="flex gap-2">
                <span className="min-w-0 flex-1">{c.name}</span>
                <span className="narrow text-small tabular-nums">{seconds(c.week)} a week</span>
              </span>
              <span className={`block ${more}`}>
                {c.links.map((l) => l.do).join(", ")}: {seconds(c.seconds)} each time
                {c.lifts > 0 && `, ${c.lifts} ${c.lifts === 1 ? "lift" : "lifts"}`}
              </span>
              {c.ring.length > 0 && <span className="block text-small text-red">These wait for each other: {c.ring.join(", ")}.</span>}
            </li>
          ))}
        </ol>
      )}
      <h2 className="m-0 mt-3 text-body font-bold">Floor kept for one use</h2>
      <p className={`m-0 ${more}`}>Square metres × days from one use to the next, with what would win floor back and what that costs.</p>
      <ul className="m-0 list-none p-0">
        {judged.tenures.slice(0, 12).map((t) => (
          <li key={t.id} className="border-b border-line py-0.5">
            <span className="flex gap-2">
              <span className="min-w-0 flex-1">{t.name}</span>
              <span className="narrow text-small tabular-nums">
                {squares(t.floor, units)}, {t.never ? "no use is known" : `${figure(t.days, t.days < 10 ? 1 : 0)} m²·days a use`}
              </span>
            </span>
            {t.idle !== "" && <span className={`block ${more}`}>{t.idle}.</span>}
            {t.choices.slice(0, 2).map((c) => (
              <span key={c.do} className={`block ${more}`}>
                {c.says}: wins {squares(c.wins, units)} for {seconds(c.pays)} a week
              </span>
            ))}
          </li>
        ))}
      </ul>
      {judged.pairs.length > 0 && (
        <>
          <h2 className="m-0 mt-3 text-body font-bold">Tables that go together</h2>
          <ul className="m-0 list-none p-0">
            {judged.pairs.slice(0, 6).map((x) => (
              <li key={x.machine + x.helper} className="flex gap-2 border-b border-line py-0.5">
                <span className="min-w-0 flex-1">{x.names}</span>
                <span className="narrow text-small">
                  {x.riser > 0 ? `with ${distance(x.riser, units)} put on` : "as they are"}
                  {!x.rolls && ", neither moves"}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      <h2 className="m-0 mt-3 text-body font-bold">Working heights</h2>
      {off.length === 0 ? (
        <p className={`m-0 ${more}`}>Everything worked at by hand is at the right height.</p>
      ) : (
        <ul className="m-0 list-none p-0">
          {off.map((h) => (
            <li key={h.station + h.person + h.task} className="border-b border-line py-0.5">
              <span className="flex gap-2">
                <span className="min-w-0 flex-1">
                  {h.name}
                  {h.person !== "" && ` for ${h.person}`}
                </span>
                <span className="narrow text-small">
                  {distance(Math.abs(h.off), units)} too {h.off > 0 ? "high" : "low"}
                </span>
              </span>
              <span className={`block ${more}`}>
                {h.task === "shelf"
                  ? `something in weekly use lies at ${distance(h.height, units)}; ${distance(h.high, units)} is reached without a step`
                  : `${wants[h.task]} ${distance(h.low, units)} to ${distance(h.high, units)}`}
                {h.assumed && "; its height is assumed"}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

const wants = {
  precise: "precise work wants its top at",
  light: "light work wants its top at",
  heavy: "planing and other heavy work wants its top at",
  turning: "turning wants the centres at",
  vice: "filing and sawing in a vice want the top of its jaws at",
  crank: "turning a crank wants its axle at",
} as const;

type Job = Judged["jobs"][number];

/** Flow is the material of jobs through the room: how far it goes, and who would better change places. */
export function Flow({
  judged,
  round,
  stations,
  revision,
  shown,
  onShow,
}: {
  judged: Judged | undefined;
  round: Round;
  stations: readonly Station[];
  revision: number;
  shown: number;
  onShow: (job: number) => void;
}) {
  const [name, setName] = useState("");
  const set = useChange(
    async (v: { base: number; jobs: Job[] }) => unwrap(await api.PUT("/api/v1/jobs", { headers: onto(v.base), body: { jobs: v.jobs } })),
    (r) => `${r.what}.`,
  );
  const swap = useChange(
    async (v: { base: number; a: string; b: string }) =>
      unwrap(await api.POST("/api/v1/stations/{id}/swap", { params: { path: { id: v.a } }, headers: onto(v.base), body: { with: v.b } })),
    (r) => `${r.what}.`,
  );
  if (!judged) return <p className="m-0 text-small text-quiet">Working it out …</p>;
  const { jobs, flows, swaps } = judged;
  const put = (next: Job[]) => set.mutate({ base: revision, jobs: next });
  const change = (i: number, to: Partial<Job>) => put(jobs.map((j, k) => (k === i ? { ...j, ...to } : j)));
  const stops = [
    { value: "", name: "then …" },
    { value: "door", name: "the door" },
    ...stations.map((s) => ({ value: s.id, name: s.name })),
    ...round.places.map((p) => ({ value: p.id, name: `${p.id} ${p.name}` })),
  ];
  const called = (id: string) => stops.find((s) => s.value === id)?.name ?? id;
  return (
    <div
      role="region"
      className="round-scroll min-h-0 flex-1 overflow-y-auto text-body"
      tabIndex={0}
      aria-label="The flow of material"
      data-testid="flow"
    >
      {jobs.length === 0 && (
        <p className="m-0 text-small text-quiet">
          Say what you make, and where its material goes. Until then a usual piece is followed through the stations there are, once there
          are some.
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {flows.map((f, i) => {
          const job = jobs[i];
          return (
            <li key={i} className="border-b border-line py-1">
              <span className="flex items-baseline gap-2">
                <button
                  aria-pressed={shown === i}
                  className="min-w-0 flex-1 text-left font-semibold hover:underline thumb:min-h-11"
                  onClick={() => onShow(shown === i ? -1 : i)}
                >
                  {f.name}
                </button>
                <span className="narrow text-small tabular-nums">{metres(f.metres, round.units, 0)} each time</span>
              </span>
              <span className="block text-small text-quiet">
                {`${f.crossings} ${f.crossings === 1 ? "crossing" : "crossings"}, ${metres(f.back, round.units, 0)} back`}
                {f.cut > 0 && `, ${f.cut === 1 ? "1 way is" : `${f.cut} ways are`} blocked`}
              </span>
              {job ? (
                <span className="flex flex-wrap items-baseline gap-x-1 text-small">
                  <Labelled after="a month:">
                    <TypedIn
                      key={job.per_month ?? 0}
                      value={figure(job.per_month ?? 0, 1)}
                      onDone={(text) => {
                        const n = Number(text.replace(",", "."));
                        if (Number.isFinite(n) && n >= 0 && n <= 1000) change(i, { per_month: n });
                      }}
                      onTyped={set.reset}
                      className="border-b border-line text-right"
                    />
                  </Labelled>
                  {(job.path ?? []).map((p, k) => (
                    <button
                      key={k}
                      aria-label={`Leave out ${called(p)}`}
                      title="Leave it out"
                      className="border-b border-line hover:text-red hover:line-through"
                      onClick={() => change(i, { path: (job.path ?? []).filter((_, n) => n !== k) })}
                    >
                      {called(p)}
                      {k < (job.path ?? []).length - 1 && ","}
                    </button>
                  ))}
                  <Pick
                    label={`Next stop of ${f.name}`}
                    value=""
                    choices={stops}
                    onPick={(p) => p !== "" && change(i, { path: [...(job.path ?? []), p] })}
                  />
                  <Button onClick={() => put(jobs.filter((_, k) => k !== i))}>{`Remove ${f.name}`}</Button>
                </span>
              ) : (
                <span className="block text-small text-quiet">{[f.legs[0]?.from ?? "", ...f.legs.map((l) => l.to)].join(", ")}</span>
              )}
            </li>
          );
        })}
      </ul>
      <form
        className="mt-1 flex items-baseline gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          const path = jobs.length === 0 ? ["door", ...stations.slice(0, 1).map((s) => s.id), "door"] : ["door"];
          put([...jobs, { name: name.trim(), per_month: 1, path }]);
          setName("");
        }}
      >
        <input
          aria-label="What is made"
          placeholder="chair, boat, box …"
          value={name}
          onChange={(e) => setName(e.target.value)}
          className="min-w-0 flex-1 border-b border-line bg-transparent px-1 py-0.5 placeholder:text-quiet"
        />
        <button type="submit" disabled={name.trim() === ""} className="font-semibold text-blue hover:underline disabled:opacity-60">
          Add a job
        </button>
      </form>
      {swaps.length > 0 && (
        <>
          <h2 className="m-0 mt-3 text-body font-bold">Who would better change places</h2>
          <ul className="m-0 list-none p-0">
            {swaps.slice(0, 4).map((s) => (
              <li key={s.a + s.b} className="flex items-baseline gap-2 border-b border-line">
                <span className="min-w-0 flex-1">{s.names}</span>
                <span className="narrow text-small tabular-nums">saves {metres(s.saves, round.units, 0)} a month</span>
                <Button label={`Let ${s.names} change places`} onClick={() => swap.mutate({ base: revision, a: s.a, b: s.b })}>
                  Swap
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="m-0 mt-2 text-small text-quiet">
        {fixed(
          flows.reduce((n, f) => n + (f.per_month * f.metres * 12) / 52, 0),
          0,
        )}{" "}
        m a week in all, carried round what stands there.
      </p>
    </div>
  );
}
