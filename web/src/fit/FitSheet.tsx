import { useKept } from "../app/useKept";
import type { Sure, WishCosts, Round } from "../api/client";
import { useNavigate } from "react-router";
import { useAccept, type PlanPart } from "../app/shop";
import { useKeepPlan } from "../evenings/useEvenings";
import { useShown } from "../app/shown";
import { metres, seconds, squares, fixed, percent } from "../units";
import { Acts, Part, Row, Sheet } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Do, Menu } from "../ui/Menu";
import { Pick } from "../ui/Pick";
import { Plans, Styles, WhatIf } from "./Plans";
import { FewMoves } from "./FewMoves";
import { Swaps } from "./Swaps";
import { Table } from "./Table";
import { PlanOrNow } from "./PlanOrNow";
import type { Fit } from "./useFit";
import { useWorking } from "./useWorking";
import { Wishes } from "./Wishes";
import { Learned, Together } from "./Working";
import { useUnits } from "../app/useUnits";
import { Empty } from "../ui/Empty";
import { Radios } from "../ui/Radios";

interface Props {
  round: Round;
  revision: number;
  fit: Fit;
  plan: boolean;
  setPlan: (on: boolean) => void;
  onAccepted: () => void;
}

/** FitSheet runs the engine, shows how the weekly handling falls, and the plan beside the shop as it stands. */
/** How sure a gain is, what makes it unsure, and what to measure first. */
function sureness({ sure, tight }: { sure: Sure; tight: number }) {
  const doubts: [number, string][] = [
    [sure.draw, "how often things happen to be used"],
    [sure.rates, "uses a week that are only guessed"],
    [sure.sizes, "sizes that are only assumed"],
    [sure.growth, "what a year brings"],
  ];
  const most = doubts.reduce((a, b) => (b[0] > a[0] ? b : a));
  return [
    `Nine of ten months save at least ${seconds(Math.max(0, sure.low))} a week.`,
    `Most of the doubt is ${most[1]}${most[0] < 0.995 ? ` (${percent(most[0])})` : ""}.`,
    sure.uses > 0.3 && `${percent(sure.uses)} of the gain hangs on one thing.`,
    tight > 0 && `${tight === 1 ? "One thing" : `${tight} things`} of assumed size would not fit if a quarter larger: measure those first.`,
  ]
    .filter(Boolean)
    .join(" ");
}

export default function FitSheet({ round, revision, fit, plan, setPlan, onAccepted }: Props) {
  const units = useUnits();
  const { select, selected } = useShown();
  const accept = useAccept();
  const keep = useKeepPlan();
  const navigate = useNavigate();
  const [limit, setLimit] = useKept("fit seconds", 2);
  const [prices, setPrices] = useKept<WishCosts>("fit wishes", {});
  const [mode, setMode] = useKept("fit mode", "");
  const modes = useWorking(revision)?.modes ?? [];
  const { run, proposal } = fit;

  if (!run && (round.items.length === 0 || round.places.length === 0))
    return (
      <Sheet title="Fit" sub="Finds a home for every thing so that fetching and putting back takes the least time in all.">
        {round.items.length === 0 ? (
          <Empty title="There is nothing to find homes for yet" act="List what you own" to="/belongings">
            List your things with how often and where you use them; sizes you leave out are assumed.
          </Empty>
        ) : (
          <Empty title="There are no places yet" act="Make a place" to="/places?hold=homeless">
            Make places one by one, or let a plan propose all of the storage at once.
          </Empty>
        )}
        {round.items.length > 0 && <Styles fit={fit} round={round} revision={revision} />}
      </Sheet>
    );
  if (!run)
    return (
      <Sheet title="Fit" sub="Finds a home for every thing so that fetching and putting back takes the least time in all.">
        <Part title="As it stands">
          <Row strong label="weekly handling" value={seconds(round.totals.seconds)} />
          <Row label="without a home" value={`${round.totals.homeless} lines`} />
        </Part>
        <div className="mt-2 flex flex-wrap gap-x-3">
          <span>search for</span>
          <Radios
            label="Search for"
            value={String(limit)}
            choices={[2, 10, 30].map((s) => ({ value: String(s), name: `${s} s` }))}
            onPick={(s) => setLimit(Number(s))}
          />
        </div>
        {modes.length > 0 && (
          <div className="flex items-center justify-between gap-2">
            <span>with the floor</span>
            <div className="w-40">
              <Pick
                label="With the floor"
                value={mode}
                onPick={setMode}
                choices={[
                  { value: "", name: "in all modes, by hours" },
                  { value: "now", name: "as it stands" },
                  ...modes.map((m) => ({ value: m.id, name: `as for ${m.name}` })),
                ]}
              />
            </div>
          </div>
        )}
        <Plans fit={fit} standing={round} />
        {fit.contradictions.length > 0 && (
          <Part title="Can't be solved">
            {fit.contradictions.map((c) => (
              <button
                key={c.what}
                className="block w-full py-0.5 text-left text-red hover:underline"
                onClick={() => select({ kind: c.item ? "item" : "place", id: c.item || c.place }, true)}
              >
                {c.what}
              </button>
            ))}
          </Part>
        )}
        <FewMoves revision={revision} onPlan={(moves) => fit.start(limit, prices, undefined, "now", moves)} />
        <Part title="Wishes, and what each may cost a week">
          <Wishes prices={prices} onPrice={setPrices} />
          <Together revision={revision} />
        </Part>
        <Swaps revision={revision} />
        <Learned revision={revision} />
        <Styles fit={fit} round={round} revision={revision} />
        <WhatIf fit={fit} round={round} />
        <p className="mt-2 text-small text-quiet">
          Nothing moves by itself: what is accepted is carried out an evening at a time. Locked homes and walls left alone stay as they are.
        </p>
        <Acts>
          <Button kind="main" onClick={() => fit.start(limit, prices, undefined, mode)}>
            Find better homes
          </Button>
        </Acts>
      </Sheet>
    );

  if (run.failed)
    return (
      <Sheet title="The search failed" sub={run.failed} live>
        <p className="mt-2 text-small">
          The shop is as it was. Try again; if it fails again, export the shop and keep the file with what you did.
        </p>
        <Acts>
          <Button kind="main" onClick={() => fit.discard()}>
            Back
          </Button>
        </Acts>
      </Sheet>
    );
  if (run.state === "waiting")
    return (
      <Sheet
        title="Waiting"
        sub={run.ahead === 1 ? "One search is running; this one is next." : `${run.ahead} searches come first. One runs at a time.`}
        live
      >
        <p className="mt-2 text-small">{run.title}</p>
        <Acts>
          <Button kind="main" onClick={() => fit.discard()}>
            Cancel
          </Button>
        </Acts>
      </Sheet>
    );
  if (fit.lost)
    return (
      <Sheet title="The plan can't be shown" sub={fit.lost} live>
        <Acts>
          <Button kind="main" onClick={fit.discard}>
            Back
          </Button>
        </Acts>
      </Sheet>
    );
  const saved = run.before > 0 ? 1 - run.objective / run.before : 0;
  if (!proposal)
    return (
      <Sheet
        title={run.style || run.question ? run.title : "Searching"}
        sub={
          run.style ? `${percent(run.share)}, ${run.doing || "starting"}` : `${percent(run.share)} of the tries, ${fixed(run.seconds, 1)} s`
        }
        live
      >
        <Part title="Weekly handling">
          <Falling fit={fit} />
          <Row label="as it stands" value={seconds(run.before)} />
          <Row strong label="best plan so far" value={run.objective > 0 ? seconds(run.objective) : "…"} />
          <Row label="cannot be below" value={run.bound > 0 ? seconds(run.bound) : "…"} />
          <Row label="no home in it" value={run.homeless} />
        </Part>
        <Acts>
          <Button kind="main" onClick={() => fit.stop()}>
            Stop with the best so far
          </Button>
        </Acts>
      </Sheet>
    );

  const gap = run.objective > 0 ? Math.max(0, 1 - run.bound / run.objective) : 0;
  const stale = run.base !== revision;
  const take = () => accept.mutate({ run: run.id, base: revision }, { onSuccess: onAccepted });
  const aim = (go: boolean, part?: PlanPart) =>
    keep.mutate({ run: run.id, base: revision, go, part }, { onSuccess: () => (onAccepted(), void navigate("/evenings")) });
  const walls = [...new Set(proposal.moves.map((m) => m.wall).filter((w) => w !== ""))].sort();
  const on = selected?.kind === "item" ? proposal.moves.find((m) => m.item === selected.id) : undefined;
  return (
    <Sheet
      title={run.style || run.question ? run.title : "The plan"}
      sub={`${proposal.made ? `${proposal.made.made.length} to build, ` : ""}${proposal.moves.length} things move, ${proposal.lost.length} find no home`}
      live
    >
      <Part title="Weekly handling">
        <Compare before={run.before} after={run.objective} />
        <Row
          label={run.modes.filter((m) => m.counts).length > 1 ? "as things live now, in all modes" : "as it stands"}
          value={seconds(run.before)}
        />
        <Row strong label="in the plan" value={seconds(run.objective)} />
        <Row label="less" value={percent(saved)} />
        <p className="text-small text-quiet" data-testid="sure">
          {proposal.table.sure.mean > 0 && sureness(proposal.table)}
        </p>
        <p className="text-small text-quiet">at most {percent(gap, 1)} from the best possible</p>
      </Part>
      {run.modes.length > 0 && (
        <Part title="In each mode of the floor">
          <table className="w-full text-small" aria-label="In each mode of the floor">
            <thead>
              <tr className="text-left text-small text-quiet">
                <th className="font-normal">a week of it</th>
                <th className="pl-3 text-right font-normal">as it stands</th>
                <th className="pl-3 text-right font-normal">in the plan</th>
              </tr>
            </thead>
            <tbody>
              {run.modes.map((m) => (
                <tr key={m.id}>
                  <td className={m.counts ? "font-bold" : ""}>
                    {m.name} <span className="font-normal text-quiet">{percent(m.share)}</span>
                  </td>
                  <td className="pl-3 text-right tabular-nums">{seconds(m.before)}</td>
                  <td className={`pl-3 text-right tabular-nums ${m.after > m.before ? "text-red" : ""}`}>{seconds(m.after)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="text-small text-quiet">
            Looked for with those in bold in mind. A home is the same in all of them; what cannot be reached in one counts there as if it
            had none. Where there is no room to work at a machine, its things count in the other modes.
          </p>
        </Part>
      )}
      <PlanOrNow plan={plan} setPlan={setPlan} />
      {proposal.made && (
        <Part title="To build">
          <Row label="pieces" value={proposal.made.made.length} />
          <Row label="building" value={`${Math.round(proposal.made.hours)} h`} />
          {proposal.made.holes > 0 && <Row label="holes in walls" value={proposal.made.holes} />}
          <Row label="sheet" value={squares(proposal.made.sheet, units)} />
          <Row label="rail" value={metres(proposal.made.rail, units)} />
          {proposal.made.money > 0 && <Row label="that costs" value={Math.round(proposal.made.money)} />}
          <Row label="floor left free" value={squares(proposal.made.floor_free, units)} />
          <Row label="wall left free" value={squares(proposal.made.wall_free, units)} />
          {proposal.made.least > 0 && <Row label="no storage on walls or at stations below" value={seconds(proposal.made.least)} />}
          <ul className="round-scroll m-0 mt-1 max-h-37.5 list-none overflow-y-auto p-0" aria-label="To build" tabIndex={0}>
            {proposal.made.made.map((m) => (
              <li key={m.id} className="flex justify-between gap-2 text-small">
                <span className="min-w-0 truncate">
                  <b className="text-blue">{m.id}</b> {m.title.toLowerCase()}, {m.for}
                </span>
                <span className="shrink-0 text-quiet">{m.things}</span>
              </li>
            ))}
          </ul>
          {proposal.made.left.map((l) => (
            <p key={l.for} className="text-small text-red">
              No place for {l.for}: {l.why}
            </p>
          ))}
        </Part>
      )}
      <Part title="Side by side">
        <Table table={proposal.table} />
      </Part>
      <Part title="What moves, most saved first">
        <ul className="round-scroll m-0 max-h-50 list-none overflow-y-auto p-0" aria-label="What moves" onKeyDown={upAndDown}>
          {proposal.moves.map((m, i) => (
            <li key={m.item}>
              <button
                tabIndex={i === 0 ? 0 : -1}
                onClick={() => select({ kind: "item", id: m.item }, true)}
                className="flex w-full items-baseline justify-between gap-2 py-0.5 text-left hover:text-blue"
              >
                <span className="min-w-0 truncate">{m.name}</span>
                <span className="narrow shrink-0 text-small">
                  <span className="text-quiet">{m.from || "no home"}</span> → <b>{m.to || "none"}</b> {m.before >= m.after ? "−" : "+"}
                  {seconds(Math.abs(m.before - m.after))}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </Part>
      {proposal.lost.length > 0 && (
        <Part title="No home in it">
          {proposal.lost.map((l) => (
            <p key={l.item} className="text-small">
              <b>{l.name}</b>: {l.why}
              {l.change && <span className="text-blue">; {l.change}</span>}
            </p>
          ))}
        </Part>
      )}
      {stale && <p className="mt-2 text-small text-red">The shop has changed since this plan was made. Discard it and fit again.</p>}
      <Acts>
        {!run.question && (
          <Button kind="main" disabled={stale || keep.isPending} onClick={() => aim(true)}>
            Accept the plan
          </Button>
        )}
        {!run.question && !stale && (
          <Menu name="Otherwise">
            <Do onSelect={() => aim(false)}>park it, to carry out later</Do>
            <Do onSelect={() => take()}>everything is moved already</Do>
          </Menu>
        )}
        {!proposal.made && !run.question && !stale && !accept.isPending && (
          <Menu name="A part">
            {on && <Do onSelect={() => aim(true, { items: [on.item] })}>only {on.name}</Do>}
            {on?.to && <Do onSelect={() => aim(true, { places: [on.to] })}>what the plan has in {on.to}</Do>}
            {walls.map((w) => (
              <Do key={w} onSelect={() => aim(true, { walls: [w] })}>
                what the plan has on wall {w}
              </Do>
            ))}
          </Menu>
        )}
        <Button onClick={fit.aside}>Others</Button>
        <Button onClick={() => fit.discard()}>Discard</Button>
      </Acts>
    </Sheet>
  );
}

/** upAndDown goes along the buttons of a list; Tab goes past it. */
function upAndDown(e: React.KeyboardEvent<HTMLElement>) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
  if (!step) return;
  e.preventDefault();
  const buttons = [...e.currentTarget.querySelectorAll("button")];
  buttons[buttons.findIndex((b) => b === document.activeElement) + step]?.focus();
}

function Compare({ before, after }: { before: number; after: number }) {
  return (
    <div className="mb-1" aria-hidden>
      <div className="h-2 bg-line" />
      <div className="mt-0.5 h-2 bg-blue" style={{ width: `${Math.min(100, (100 * after) / (before || 1))}%` }} />
    </div>
  );
}

/** Falling draws the objective coming down towards the bound. */
function Falling({ fit }: { fit: Fit }) {
  const { run, falling } = fit;
  if (!run) return null;
  const high = run.before || 1;
  const y = (s: number) => 62 - (58 * s) / high;
  return (
    <svg viewBox="0 0 250 64" className="mb-1 w-full border-b border-line" role="img" aria-label="The best plan so far over the search">
      <line x1={0} x2={250} y1={y(high)} y2={y(high)} stroke="var(--quiet)" strokeDasharray="3 3" />
      {run.bound > 0 && <line x1={0} x2={250} y1={y(run.bound)} y2={y(run.bound)} stroke="var(--ink)" strokeWidth={1} />}
      <polyline
        points={falling.map((f) => `${f.share * 250},${y(f.objective)}`).join(" ")}
        fill="none"
        stroke="var(--blue)"
        strokeWidth={2}
      />
    </svg>
  );
}
