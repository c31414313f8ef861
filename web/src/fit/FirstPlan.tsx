import { useQuery } from "@tanstack/react-query";
import { Check, Circle } from "lucide-react";
import { useNavigate } from "react-router";
import { api, keys, unwrap, type Item, type Round } from "../api/client";
import { useSteps, ways } from "../app/Next";
import { useAccept } from "../app/shop";
import { useKeepPlan } from "../evenings/useEvenings";
import { useShown } from "../app/shown";
import { useAdvice } from "../belongings/useList";
import { Acts, Part, Row, Sheet } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { percent, seconds } from "../units";
import { PlanOrNow } from "./PlanOrNow";
import type { Fit } from "./useFit";

interface Props {
  round: Round;
  revision: number;
  fit: Fit;
  plan: boolean;
  setPlan: (on: boolean) => void;
  onAccepted: () => void;
}

/** here takes the focus to the one thing to do, without rolling to it. */
const here = (button: HTMLButtonElement | null) => button?.focus({ preventScroll: true });

/** firstSearch is how long the first plan is looked for, in seconds: it need not be the last word. */
const firstSearch = 4;

/** FirstPlan says what a first plan rests on, makes it with one button, and says in words what it brings. */
export default function FirstPlan({ round, revision, fit, plan, setPlan, onAccepted }: Props) {
  const navigate = useNavigate();
  const accept = useAccept();
  const keep = useKeepPlan();
  const { select } = useShown();
  const { run, proposal } = fit;
  const enough = useQuery({
    queryKey: keys.enough(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/enough")),
    placeholderData: (old) => old,
  }).data;
  const advice = useAdvice(revision);
  const steps = useSteps(revision);

  if (!run)
    return (
      <Sheet title="The first plan" sub="As soon as enough is known, Hobrak finds a home for everything, and says what that brings.">
        <ul className="m-0 mt-1 list-none p-0" aria-label="What a first plan rests on">
          {enough?.known.map((k) => (
            <li key={k.id} className="flex gap-2 border-t border-line py-1.5 first:border-0">
              {k.done ? (
                <Check size={18} strokeWidth={3} className="mt-0.5 shrink-0" style={{ color: "var(--order-1)" }} aria-label="known" />
              ) : (
                <Circle
                  size={18}
                  className={`mt-0.5 shrink-0 ${k.must ? "text-red" : "text-quiet"}`}
                  aria-label={k.must ? "still needed" : "would help"}
                />
              )}
              <span className="min-w-0 flex-1">
                <span className="font-semibold">{k.what}</span>
                <span className={`block text-small ${k.done || !k.must ? "text-quiet" : "text-red"}`}>
                  {k.have}
                  {!k.done && !k.must && "; it goes without"}
                </span>
                {!k.done && (
                  <Button onClick={() => void navigate({ pathname: ways[k.go].path, search: ways[k.go].search })}>
                    {k.must ? "Say it" : "Say it, to be surer"}
                  </Button>
                )}
              </span>
            </li>
          ))}
        </ul>
        {enough && !enough.ready && <p className="mt-2 text-small">What is marked red is still needed. Sizes may be guesses.</p>}
        <Acts>
          <Button
            key={String(enough?.ready)}
            kind="main"
            ref={enough?.ready ? here : undefined}
            disabled={!enough?.ready}
            onClick={() => fit.start(firstSearch)}
          >
            Make the first plan
          </Button>
        </Acts>
      </Sheet>
    );
  if (run.failed || fit.lost)
    return (
      <Sheet title="There is no plan" sub={run.failed || fit.lost} live>
        <Acts>
          <Button kind="main" onClick={fit.discard}>
            Back
          </Button>
        </Acts>
      </Sheet>
    );
  if (!proposal)
    return (
      <Sheet title="Looking for homes" sub={`${percent(run.share)} of the tries`} live>
        <Row label="as it stands" value={seconds(run.before)} />
        <Row strong label="best so far, a week" value={run.objective > 0 ? seconds(run.objective) : "…"} />
        <Acts>
          <Button onClick={() => fit.stop()}>Stop with the best so far</Button>
        </Acts>
      </Sheet>
    );
  const stale = run.base !== revision;
  const gains = proposal.moves.filter((m) => m.before - m.after >= 0.5).slice(0, 3);
  const named = (r: Round, id: string) => r.items.find((i) => i.id === id);
  const called = (id: string) => {
    const p = proposal.round.places.find((x) => x.id === id);
    return p?.name && p.name !== id ? `${p.name}, ${id}` : id;
  };
  const build = steps?.find((s) => s.id === "storage");
  const measure = advice?.doubts.list.slice(0, 5) ?? [];
  return (
    <Sheet
      title="The first plan"
      sub={`${proposal.moves.length} ${proposal.moves.length === 1 ? "thing moves" : "things move"}; nothing moves by itself.`}
      live
    >
      <Part title="Fetching and putting back, a week">
        <Row label="as it stands" value={seconds(run.before)} />
        <Row strong label="in the plan" value={seconds(run.objective)} />
        {run.before > 0 && <Row label="less" value={percent(Math.max(0, 1 - run.objective / run.before))} />}
      </Part>
      <PlanOrNow plan={plan} setPlan={setPlan} />
      <Part
        title={gains.length === 1 ? "What brings most" : `The ${gains.length > 0 ? gains.length : ""} that bring most`.replace("  ", " ")}
      >
        {gains.map((m) => (
          <p key={m.item} className="mt-0 mb-1.5 leading-snug">
            <button className="text-left hover:text-blue" onClick={() => select({ kind: "item", id: m.item }, true)}>
              {moved(named(proposal.round, m.item), m, called)}: <b>{seconds(m.before - m.after)}</b> less a week.
            </button>
          </p>
        ))}
        {gains.length === 0 && <p className="m-0">Everything is where it is got at fastest already.</p>}
      </Part>
      <Part title="Build first">
        {build ? (
          <p className="m-0">
            {build.what}: {build.why}.{" "}
            <Button onClick={() => void navigate({ pathname: "/places", search: "hold=homeless" })}>{build.do}</Button>
          </p>
        ) : proposal.lost.length > 0 ? (
          <p className="m-0">
            {proposal.lost.length} {proposal.lost.length === 1 ? "thing finds" : "things find"} no home in it.{" "}
            <Button onClick={() => void navigate({ pathname: "/places", search: "hold=homeless" })}>Make a place</Button>
          </p>
        ) : (
          <p className="m-0">Nothing: all of it goes into the storage that is there.</p>
        )}
      </Part>
      <Part title="Measure, to be surer">
        {measure.length > 0 ? (
          <>
            <p className="m-0">
              {measure.map((d) => named(round, d.item)?.name ?? d.item).join(", ")}: most depends on their sizes, which are assumed.
            </p>
            <Button onClick={() => void navigate({ pathname: "/belongings", search: "topic=measure" })}>See all that is assumed</Button>
          </>
        ) : (
          <p className="m-0">Nothing that matters is assumed.</p>
        )}
      </Part>
      {stale && <p className="mt-2 text-small text-red">The shop has changed since. Discard this plan and make it again.</p>}
      <Acts>
        <Button
          kind="main"
          ref={here}
          disabled={stale || keep.isPending}
          onClick={() =>
            keep.mutate({ run: run.id, base: revision, go: true }, { onSuccess: () => (onAccepted(), void navigate("/evenings")) })
          }
        >
          Take it over
        </Button>
        <Button
          disabled={stale || accept.isPending}
          onClick={() => accept.mutate({ run: run.id, base: revision }, { onSuccess: onAccepted })}
        >
          It is all there already
        </Button>
        <Button onClick={() => void navigate({ pathname: "/fit", search: location.search })}>All of it, under Fit</Button>
        <Button onClick={fit.discard}>Discard</Button>
      </Acts>
    </Sheet>
  );
}

/** moved says in words where a thing goes. */
function moved(item: Item | undefined, m: { name: string; from: string; to: string }, called: (id: string) => string): string {
  const who = (item?.count ?? 1) > 1 ? `${item?.count} × ${m.name}` : m.name;
  if (!m.to) return `${who} out of ${called(m.from)}`;
  if (m.from) return `${who} from ${called(m.from)} to ${called(m.to)}`;
  return `${who}, ${item?.lies ? `now lying in ${called(item.lies)}` : "without a home so far"}, to ${called(m.to)}`;
}
