import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Evening, EveningStep, Evenings as Answer, Round, Target, Worthwhile } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { useShown } from "../app/shown";
import { today } from "../day";
import { Part } from "../sheet/Sheet";
import { Ask } from "../ui/Ask";
import { Button } from "../ui/Button";
import { Empty } from "../ui/Empty";
import { Labelled } from "../ui/Labelled";
import { Do, Menu } from "../ui/Menu";
import { printLists } from "../ui/printLists";
import { TypedIn } from "../ui/TypedIn";
import { distance, fixed, seconds, type Units } from "../units";
import { Film } from "./Film";
import { Pile } from "./Pile";
import { goalOf, Spot } from "../stage/Spot";
import { useBestUse, useChangeTarget, useDropTarget, useEvenings, useLeaveThing, useTargets, useTickStep } from "./useEvenings";

/** minutes as people say them. */
const mins = (m: number) => `${fixed(Math.max(1, Math.round(m)), 0)} min`;

/** what is done in a step, in words. */
function words(s: EveningStep, round: Round): string {
  const called = (id: string | undefined) => {
    const p = round.places.find((x) => x.id === id);
    return p && p.name !== "" ? `${id} ${p.name}` : (id ?? "");
  };
  const part = (s.parts ?? 0) > 1 ? `, part ${s.part} of ${s.parts}` : "";
  switch (s.do) {
    case "build":
      return `Make and put up ${s.name}${part}`;
    case "shift":
      return s.temporary ? `Set ${s.name} aside for now${s.on ? `, ${s.on}` : ""}` : `Shift ${s.name}${part}`;
    case "clear":
      return `Take down ${s.name}${part}`;
  }
  const who = (s.count ?? 1) > 1 ? `${s.count} × ${s.name}` : s.name;
  const from = s.from ? ` from ${called(s.from.place)}` : s.from_on ? ` from ${s.from_on}` : "";
  if (s.temporary) return `Put ${who}${from} on ${s.to ? called(s.to.place) : (s.on ?? "")} for now`;
  if (!s.to) return `Take ${who}${from} out of the way: it has no home in the plan`;
  return `${who}${from} to ${called(s.to.place)}`;
}

/** spot is where in its place something goes, in words. */
function spot(s: EveningStep, units: Units): string {
  if (!s.to || s.temporary) return "";
  const at = [];
  if (s.to.x) at.push(`${distance(s.to.x, units)} from the left`);
  if (s.to.z) at.push(`${distance(s.to.z, units)} up`);
  if (s.to.y) at.push(`${distance(s.to.y, units)} from the front`);
  if (s.to.slot) at.push(`slot ${s.to.slot + 1}`);
  if (s.to.level) at.push(`level ${s.to.level + 1}`);
  return at.join(", ");
}

const key = (s: EveningStep) =>
  `${s.do} ${s.item ?? s.what} ${s.from?.place ?? s.from_on ?? ""} ${s.to?.place ?? s.on ?? ""} ${s.part ?? 0}`;

/** Evenings is where a plan is carried out: what is done tonight, what the next evenings bring, and which plans are parked. */
export default function Evenings({ round, revision }: { round: Round; revision: number }) {
  const [long, setLong] = useKept("an evening lasts", 60);
  const phone = usePhone();
  const asked = useEvenings(long, revision);
  const targets = useTargets(revision).data ?? [];
  const [at, setAt] = useState(0);
  const [why, setWhy] = useState("");
  const answer = asked.data;
  const evenings = answer?.plan?.evenings ?? [];
  const shown = evenings[Math.min(at, evenings.length - 1)];
  const target = targets.find((t) => t.id === answer?.target);
  const howLong = (
    <Labelled label="An evening lasts" after="minutes" width="w-56">
      <TypedIn
        key={long}
        value={String(long)}
        why={why || asked.error?.message}
        onDone={(text) => {
          const n = Number(text.replace(",", "."));
          if (!Number.isFinite(n) || n < 10 || n > 600) setWhy("from 10 to 600 minutes: in less something is only begun");
          else setLong(n);
        }}
        onTyped={() => setWhy("")}
        className="w-14 border-b border-line"
      />
    </Labelled>
  );
  return (
    <div className="round-scroll h-full overflow-y-auto px-4 py-3 text-body" tabIndex={0} role="region" aria-label="Evenings">
      {!answer && <p className="text-quiet">Working out the evenings …</p>}
      {answer && answer.target === "" && <NoPlan targets={targets} round={round} revision={revision} />}
      {answer && answer.target !== "" && (
        <>
          <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
            <h1 className="m-0 text-head leading-tight font-bold">{answer.name}</h1>
            {answer.plan && evenings.length > 0 && (
              <span>
                {evenings.length === 1 ? "one evening" : `${evenings.length} evenings`}, {mins(answer.plan.minutes)} in all:{" "}
                {seconds(answer.plan.handling.now)} a week now, <b>{seconds(answer.plan.handling.target)}</b> at the end
              </span>
            )}
            <span className="ml-auto max-md:ml-0">{howLong}</span>
          </div>
          <Told answer={answer} target={target} revision={revision} />
          {evenings.length > 0 && (
            <>
              <Cards evenings={evenings} now={answer.plan?.handling.now ?? 0} at={Math.min(at, evenings.length - 1)} onPick={setAt} />
              {!phone && shown && (
                <Film round={round} target={answer.target} steps={shown.steps} words={(s) => words(s, round)} revision={revision} />
              )}
              {at === 0 || evenings.length === 1 ? (
                <Tonight key={answer.target} evening={evenings[0]!} next={evenings[1]} round={round} revision={revision} phone={phone} />
              ) : (
                shown && <Later evening={shown} round={round} />
              )}
            </>
          )}
          {answer.plan && evenings.length === 0 && answer.plan.stuck.length === 0 && <Finished target={target} revision={revision} />}
          {!phone && <Parked targets={targets.filter((t) => t.id !== answer.target)} revision={revision} />}
          <div data-printed className="hidden print:block">
            {evenings.map((e, i) => (
              <div key={i} className="mt-2">
                <h2 className="text-head font-bold">
                  Evening {i + 1}, {mins(e.minutes)}
                </h2>
                <ol className="list-none p-0">
                  {e.steps.map((s) => (
                    <li key={s.n} className="border-b border-line py-1">
                      ☐ {words(s, round)} {s.caution && <i>({s.caution})</i>}
                    </li>
                  ))}
                </ol>
              </div>
            ))}
          </div>
        </>
      )}
    </div>
  );
}

/** Told is what is to be known of a plan before it is carried out: what is gone, what waits, what was left out. */
function Told({ answer, target, revision }: { answer: Answer; target: Target | undefined; revision: number }) {
  const change = useChangeTarget();
  const p = answer.plan;
  return (
    <div className="text-small">
      {target?.note && <p className="m-0 text-quiet">{target.note}</p>}
      {target?.judge && (
        <p className={`m-0 ${target.judge < today() ? "font-semibold text-red" : "text-quiet"}`}>
          {target.judge < today() ? `It was to be judged on ${target.judge}: keep it, or go back.` : `To be judged on ${target.judge}.`}
        </p>
      )}
      {answer.why !== "" && <p className="m-0 font-semibold text-red">{answer.why}.</p>}
      <Some list={answer.gone} />
      <Some list={p?.stuck ?? []} />
      {p && p.worst >= 1 && (
        <p className="m-0">In between, after the worst evening, getting things takes {seconds(p.worst)} a week more than now.</p>
      )}
      {p?.opens && p.opens.others > 1 && (
        <p className="m-0">
          Most waits for one step: {p.opens.others} others come after <b>{p.opens.name}</b>.
        </p>
      )}
      {answer.left.length > 0 && (
        <p className="m-0">
          Left where they are: {answer.left.map((l) => (l.why ? `${l.name} (${l.why})` : l.name)).join(", ")}.{" "}
          <Button onClick={() => change.mutate({ base: revision, id: answer.target, change: { again: true } })}>Take them in again</Button>
        </p>
      )}
    </div>
  );
}

/** Some are the first of a list of warnings, the others on asking. */
function Some({ list }: { list: readonly string[] }) {
  const [all, setAll] = useState(false);
  const shown = all || list.length <= 3 ? list : list.slice(0, 2);
  return (
    <>
      {shown.map((g) => (
        <p key={g} className="m-0 text-red">
          {g}.
        </p>
      ))}
      {shown.length < list.length && <Button onClick={() => setAll(true)}>{list.length - shown.length} more like that</Button>}
    </>
  );
}

function Cards({ evenings, now, at, onPick }: { evenings: readonly Evening[]; now: number; at: number; onPick: (i: number) => void }) {
  return (
    <ol className="round-scroll m-0 mt-2 flex list-none gap-2 overflow-x-auto p-0 pb-1" aria-label="The evenings" tabIndex={0}>
      {evenings.map((e, i) => {
        const before = i === 0 ? now : (evenings[i - 1]?.handling_after ?? now);
        const wins = before - e.handling_after;
        return (
          <li key={i} className="shrink-0">
            <button
              aria-pressed={i === at}
              onClick={() => onPick(i)}
              className={`flex h-full w-36 flex-col border px-2 py-1 text-left ${i === at ? "border-blue bg-sheet" : "border-line hover:border-ink"}`}
            >
              <b className="block">{i === 0 ? "Tonight" : `Evening ${i + 1}`}</b>
              <span className="block text-small text-quiet">
                {mins(e.minutes)}, {e.steps.length === 1 ? "1 step" : `${e.steps.length} steps`}
              </span>
              <span className="block text-small">
                {wins >= 1 ? `wins ${seconds(wins)} a week` : wins <= -1 ? `costs ${seconds(-wins)} a week for now` : "makes way"}
              </span>
              <span className="mt-1 block h-1.5 bg-line" aria-hidden>
                <span className="block h-full bg-blue" style={{ width: `${Math.min(100, (100 * Math.max(0, wins)) / (now || 1))}%` }} />
              </span>
              {e.aside > 0 && <span className="block text-small">{e.aside === 1 ? "1 thing lies" : `${e.aside} things lie`} aside</span>}
              {e.covered && <span className="block text-small text-red">{e.covered} stays covered</span>}
            </button>
          </li>
        );
      })}
    </ol>
  );
}

const reasons = ["it does not fit", "it was somewhere else", "it broke", "not now"];

/** Tonight is the list of this evening, one step after the other. What was begun stays as it is until it is done, or turns out otherwise. */
function Tonight({
  evening,
  next,
  round,
  revision,
  phone,
}: {
  evening: Evening;
  next: Evening | undefined;
  round: Round;
  revision: number;
  phone: boolean;
}) {
  // The list as it was when the evening began, with what is done of it.
  const [kept, setKept] = useKept<{ steps: EveningStep[]; done: string[]; base: number } | undefined>("tonight", undefined);
  const [skipped, setSkipped] = useState<string[]>([]);
  const [looked, setLooked] = useState<string>();
  const last = useRef(Date.now());
  const tick = useTickStep();
  const leave = useLeaveThing();
  const begun = kept !== undefined && kept.base <= revision;
  const steps = begun ? kept.steps : evening.steps;
  const done = begun ? kept.done : [];
  const left = steps.filter((s) => !done.includes(key(s)));
  const now = left.find((s) => key(s) === looked) ?? left.find((s) => !skipped.includes(key(s))) ?? left[0];
  const heavy = steps.findLastIndex((s) => s.people > 1);
  const won = steps.filter((s) => done.includes(key(s))).reduce((sum, s) => sum + s.gain, 0);
  const did = (s: EveningStep) => {
    const took = (Date.now() - last.current) / 60000;
    last.current = Date.now();
    tick.mutate(
      { base: revision, step: s, took: done.length > 0 && took < 3 * s.minutes + 2 ? took : undefined },
      {
        onSuccess: () => {
          setKept({ steps, done: [...done, key(s)], base: begun ? kept.base : revision });
          setLooked(undefined);
        },
        // It is otherwise than the list says: it is made anew from how things are.
        onError: () => setKept(undefined),
      },
    );
  };
  const cannot = (s: EveningStep, why: string) => {
    if (s.item) leave.mutate({ base: revision, item: s.item, why }, { onSuccess: () => setKept(undefined) });
    else setSkipped((l) => [...l, key(s)]);
  };
  if (left.length === 0)
    return (
      <div className="mt-3 max-w-140" data-testid="evening-over">
        <h2 className="m-0 text-head font-bold">That is it for tonight</h2>
        <p className="mt-1">
          {done.length} {done.length === 1 ? "step is" : "steps are"} done, which saves {seconds(Math.max(0, won))} a week.{" "}
          {next
            ? `The next evening takes ${mins(evening.minutes)} and brings it to ${seconds(evening.handling_after)} a week.`
            : "There is one more list."}
        </p>
        <Button kind="main" onClick={() => setKept(undefined)}>
          Show the next evening
        </Button>
      </div>
    );
  const one = now && (
    <One
      step={now}
      round={round}
      busy={tick.isPending}
      onDone={() => did(now)}
      onSkip={() => setSkipped((l) => [...l, key(now)])}
      onCannot={(why) => cannot(now, why)}
      of={`${done.length + 1} of ${steps.length}`}
    />
  );
  return (
    <div className={phone ? "mt-2" : "mt-3 grid grid-cols-[minmax(0,1fr)_22rem] gap-6"} data-testid="tonight">
      {phone && one}
      <div>
        {!phone && heavy > 2 && (
          <p className="m-0 text-small text-quiet">
            Two-person steps first, while you are fresh. No ladder among carts; nothing carried with both hands over a cord.
          </p>
        )}
        <ol className="m-0 list-none p-0" aria-label="Tonight">
          {steps.map((s) => {
            const is = done.includes(key(s));
            return (
              <li
                key={key(s)}
                className={`flex items-start gap-2 border-b border-line py-1 ${now && key(now) === key(s) ? "bg-sheet" : ""}`}
              >
                <button
                  aria-label={`${words(s, round)}: done`}
                  aria-pressed={is}
                  disabled={is || tick.isPending}
                  onClick={() => did(s)}
                  className={`mt-0.5 h-5 w-5 shrink-0 border border-ink ${is ? "bg-blue" : "bg-paper hover:bg-blue-wash"} thumb:h-7 thumb:w-7`}
                />
                <button className="min-w-0 flex-1 text-left" onClick={() => setLooked(key(s))}>
                  <span className={is ? "text-quiet line-through" : ""}>{words(s, round)}</span>
                  {s.caution && !is && <span className="block text-small text-red">{s.caution}</span>}
                </button>
                <span className="narrow shrink-0 text-small text-quiet">
                  {mins(s.minutes)}
                  {s.people > 1 ? ", two people" : ""}
                </span>
              </li>
            );
          })}
        </ol>
        <p className="mt-2">
          <Button onClick={printLists}>Print the evenings</Button>{" "}
          {begun && <Button onClick={() => setKept(undefined)}>Order what is left anew</Button>}
        </p>
      </div>
      {!phone && one && <aside aria-label="The step">{one}</aside>}
    </div>
  );
}

/** One step, large enough for full hands, with the picture of where it goes. */
function One({
  step,
  round,
  busy,
  onDone,
  onSkip,
  onCannot,
  of,
}: {
  step: EveningStep;
  round: Round;
  busy: boolean;
  onDone: () => void;
  onSkip: () => void;
  onCannot: (why: string) => void;
  of: string;
}) {
  const exact = spot(step, round.units);
  return (
    <div className="border border-ink bg-sheet p-3" data-testid="step">
      <span className="text-small text-quiet">{of}</span>
      <p className="m-0 text-head leading-tight font-bold">{words(step, round)}</p>
      {exact !== "" && <p className="m-0">{exact}</p>}
      {step.caution && <p className="m-0 text-red">{step.caution}</p>}
      <div className="my-2">
        <Spot round={round} id={step.to?.place ?? step.what ?? ""} marks={goalOf(round, step)} />
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button kind="main" disabled={busy} onClick={onDone}>
          Done
        </Button>
        <Button onClick={onSkip}>Later</Button>
        {step.item && (
          <Menu name="Not possible">
            {reasons.map((r) => (
              <Do key={r} onSelect={() => onCannot(r)}>
                {r}
              </Do>
            ))}
          </Menu>
        )}
      </div>
    </div>
  );
}

/** Later is an evening that is still to come, to look at. */
function Later({ evening, round }: { evening: Evening; round: Round }) {
  return (
    <ol className="m-0 mt-3 max-w-180 list-none p-0" aria-label="The evening">
      {evening.steps.map((s) => (
        <li key={s.n} className="flex items-baseline gap-3 border-b border-line py-1">
          <span className="min-w-0 flex-1">
            {words(s, round)}
            {s.caution && <span className="block text-small text-red">{s.caution}</span>}
          </span>
          <span className="narrow text-small text-quiet">{mins(s.minutes)}</span>
        </li>
      ))}
    </ol>
  );
}

function Finished({ target, revision }: { target: Target | undefined; revision: number }) {
  const change = useChangeTarget();
  return (
    <div className="mt-3 max-w-140" data-testid="finished">
      <h2 className="m-0 text-head font-bold">Everything is where the plan has it</h2>
      <p className="mt-1">The homes on record are those in the room. {target?.judge ? `Judge it on ${target.judge}.` : ""}</p>
      {target && (
        <Button kind="main" onClick={() => change.mutate({ base: revision, id: target.id, change: { go: false } })}>
          Done with it
        </Button>
      )}
    </div>
  );
}

/** Parked are the plans that are kept beside the one that is carried out. */
function Parked({ targets, revision }: { targets: readonly Target[]; revision: number }) {
  const change = useChangeTarget();
  const drop = useDropTarget();
  if (targets.length === 0) return null;
  return (
    <div className="mt-5 max-w-180">
      <Part title="Plans that are kept">
        {targets.map((t) => (
          <div key={t.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1">
            <Labelled label="" width="w-52">
              <span className="sr-only">called</span>
              <TypedIn
                key={t.name}
                value={t.name}
                onDone={(name) => change.mutate({ base: revision, id: t.id, change: { name } })}
                onTyped={change.reset}
                className="border-b border-line font-bold"
              />
            </Labelled>
            <Labelled label="why" width="min-w-0 flex-1 text-small">
              <TypedIn
                key={t.note ?? ""}
                value={t.note ?? ""}
                onDone={(note) => change.mutate({ base: revision, id: t.id, change: { note } })}
                onTyped={change.reset}
                className="w-full border-b border-line"
              />
            </Labelled>
            <Labelled label="judge on" width="text-small">
              <TypedIn
                key={t.judge ?? ""}
                value={t.judge ?? ""}
                onDone={(judge) => change.mutate({ base: revision, id: t.id, change: { judge } })}
                onTyped={change.reset}
                className="w-24 border-b border-line"
              />
            </Labelled>
            <Button onClick={() => change.mutate({ base: revision, id: t.id, change: { go: true } })}>Carry it out</Button>
            <Ask
              title={`Let ${t.name} go?`}
              yes="Let it go"
              no="Keep it"
              danger
              onYes={() => drop.mutate({ base: revision, id: t.id })}
              trigger={<Button>Let it go</Button>}
            >
              <p className="m-0">Things stay where they are. Undo brings the plan back.</p>
            </Ask>
          </div>
        ))}
      </Part>
    </div>
  );
}

/** NoPlan is what there is to do without one: a plan to choose, or the best use of some minutes. */
function NoPlan({ targets, round, revision }: { targets: readonly Target[]; round: Round; revision: number }) {
  const [minutes, setMinutes] = useKept("minutes to spare", 40);
  const [why, setWhy] = useState("");
  const list = useBestUse(minutes, revision, round.items.length > 0).data ?? [];
  return (
    <>
      <Empty title="No plan is being carried out" act="Look for better homes" to="/fit">
        A plan is accepted under Fit. Then here is what to carry where, an evening at a time, with the room fit for use after each; what is
        on record changes only when you tick that you moved it.
      </Empty>
      {round.items.length > 0 && (
        <div className="mt-3 max-w-180">
          <Part title="Just an hour">
            <Labelled label="The best use of" after="minutes, most seconds a week for each first:" width="w-110">
              <TypedIn
                key={minutes}
                value={String(minutes)}
                why={why || undefined}
                onDone={(text) => {
                  const n = Number(text);
                  if (!Number.isFinite(n) || n < 5 || n > 600) setWhy("from 5 to 600 minutes");
                  else setMinutes(n);
                }}
                onTyped={() => setWhy("")}
                className="w-14 border-b border-line"
              />
            </Labelled>
            <ol className="m-0 mt-1 list-none p-0" aria-label="The best use of it">
              {list.map((w) => (
                <Worth key={w.says} w={w} />
              ))}
            </ol>
            {list.length === 0 && <p className="m-0 text-quiet">Nothing is worth it: everything is where it does best.</p>}
          </Part>
        </div>
      )}
      {round.items.length > 0 && (
        <div className="mt-4 max-w-180">
          <Pile round={round} revision={revision} />
        </div>
      )}
      <Parked targets={targets} revision={revision} />
    </>
  );
}

function Worth({ w }: { w: Worthwhile }) {
  const navigate = useNavigate();
  const { select } = useShown();
  const first = w.items[0];
  return (
    <li className="flex items-baseline gap-3 border-b border-line py-1">
      <button
        className="min-w-0 flex-1 text-left hover:text-blue"
        onClick={() => {
          if (!first) return;
          select({ kind: "item", id: first });
          void navigate("/round");
        }}
      >
        <span className="block first-letter:uppercase">{w.says}</span>
        {w.do === "look" && <span className="block text-small text-quiet">{w.names.join(", ")}</span>}
      </button>
      <span className="narrow text-small text-quiet">{mins(w.minutes)}</span>
      <span className="narrow w-32 text-right text-small">{w.saves > 0 ? `saves ${seconds(w.saves)} a week` : ""}</span>
    </li>
  );
}
