import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, keys, onto, unwrap, type Change, type Move } from "../api/client";
import { useChange } from "../app/shop";
import { useKept } from "../app/useKept";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { metres, seconds, type Units } from "../units";
import { printLists } from "../ui/printLists";
import { corners } from "./useFloor";

const words: Record<Move["do"], (name: string) => string> = {
  roll: (n) => `Roll ${n} to its spot`,
  "set aside": (n) => `Set ${n} aside for now`,
  fold: (n) => `Fold ${n}`,
  unfold: (n) => `Unfold ${n}`,
  hoist: (n) => `Hoist ${n}`,
  "let down": (n) => `Let ${n} down`,
  "take away": (n) => `Take ${n} out`,
  "roll outdoors": (n) => `Roll ${n} outdoors`,
  "bring in": (n) => `Bring ${n} in`,
};

type Corners = readonly (readonly number[])[];

/** Played is a moment of a change-over: where what it moves stands by then, and what moves now. */
export interface Played {
  moved: string[];
  standing: { id: string; corners: Corners }[];
  now: Corners | undefined;
  path: Corners[];
}

/** moment of a change-over after so many moves are done. */
function moment(plan: Change, done: number): Played {
  const at = new Map<string, Corners>();
  for (const m of [...plan.moves].reverse()) at.set(m.id, m.before);
  for (const m of plan.moves.slice(0, done)) at.set(m.id, m.after);
  const next = plan.moves[done - 1];
  const from = next && next.after.length === 4 ? next.after : (next?.before ?? []);
  const side = (a: number, b: number) => Math.hypot((from[a]?.[0] ?? 0) - (from[b]?.[0] ?? 0), (from[a]?.[1] ?? 0) - (from[b]?.[1] ?? 0));
  const path = (next?.path ?? [])
    .filter((_, i) => i % 6 === 0)
    .map((p) => corners({ x: p.x - side(0, 1) / 2, y: p.y - side(1, 2) / 2, w: side(0, 1), d: side(1, 2), rot: p.rot }));
  return {
    moved: plan.moves.map((m) => m.id),
    standing: [...at].filter(([id, c]) => c.length > 0 && id !== next?.id).map(([id, c]) => ({ id, corners: c })),
    now: next && at.get(next.id)?.length ? at.get(next.id) : undefined,
    path,
  };
}

/** slowest of the moves. */
const slowest = (plan: Change): Move | undefined => [...plan.moves].sort((a, b) => b.seconds - a.seconds)[0];

/** ChangeOver lists what is moved from one arrangement of the floor to another, to tick off, to print, and played on the plan. */
export function ChangeOver({
  revision,
  units,
  now,
  onStep,
}: {
  revision: number;
  units: Units;
  now: string;
  onStep: (p: Played | undefined) => void;
}) {
  const modes = useQuery({ queryKey: keys.modes(revision), queryFn: async () => unwrap(await api.GET("/api/v1/modes", {})) }).data ?? [];
  const [from, setFrom] = useKept("change from", now);
  const [to, setTo] = useKept("change to", "");
  const [done, setDone] = useKept<string[]>("changed over", []);
  const [step, setStep] = useState(0);
  const there = (id: string) => (id === "" || modes.some((m) => m.id === id) ? id : "");
  const between = (a: string, b: string) => ({
    queryKey: keys.changeOver(a, b, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/change-over", { params: { query: { from: a, to: b } } })),
    enabled: modes.length > 0 && a !== b,
  });
  const plan = useQuery(between(there(from), there(to))).data;
  const back = useQuery(between(there(to), there(from))).data;
  const arrived = useChange(
    async (v: { base: number; mode: string }) =>
      unwrap(
        await api.PATCH("/api/v1/modes/{id}", {
          params: { path: { id: v.mode === "" ? "-" : v.mode } },
          headers: onto(v.base),
          body: { now: true },
        }),
      ),
    () => "The floor is like that now.",
  );
  useEffect(() => {
    onStep(plan && step > 0 ? moment(plan, Math.min(step, plan.moves.length)) : undefined);
  }, [plan, step, onStep]);
  useEffect(() => () => onStep(undefined), [onStep]);
  const choices = [{ value: "", name: "as it stands" }, ...modes.map((m) => ({ value: m.id, name: m.name }))];
  const name = (id: string) => choices.find((c) => c.value === id)?.name ?? id;
  const pick = (set: (v: string) => void) => (v: string) => {
    set(v);
    setDone([]);
    setStep(0);
  };
  if (modes.length === 0)
    return (
      <p className="m-0 text-small text-quiet">
        A room that lives twice: put what rolls where it is while you work and keep that above the plan, then where it is for the night, and
        keep that too. Here is then what has to be moved from the one to the other.
      </p>
    );
  const ready = plan && there(from) !== there(to);
  return (
    <div
      role="region"
      aria-label="Change the floor over"
      className="round-scroll min-h-0 flex-1 overflow-y-auto text-body"
      data-testid="arrangements"
    >
      <div className="flex flex-wrap items-baseline gap-x-2">
        <Pick label="From" value={there(from)} choices={choices} onPick={pick(setFrom)} />
        <span>to</span>
        <Pick label="To" value={there(to)} choices={choices} onPick={pick(setTo)} />
      </div>
      {there(from) === there(to) && <p className="m-0 text-small text-quiet">Choose another one to see what is moved.</p>}
      {ready && (
        <div data-testid="change-over">
          <p className="m-0 text-small">
            {plan.moves.length === 0
              ? "Nothing has to be moved."
              : `${plan.moves.length} ${plan.moves.length === 1 ? "move" : "moves"}, ${seconds(plan.seconds)}${plan.fewest ? "; no fewer do." : `; at least ${plan.least} are needed.`}`}
          </p>
          {plan.limit > 0 && plan.seconds > plan.limit && (
            <p className="m-0 text-small font-semibold text-red">
              That is longer than the {seconds(plan.limit)} you allow: put less on wheels in the way, or let something stay.
            </p>
          )}
          {plan.limit > 0 && plan.seconds > plan.limit && slowest(plan) && (
            <p className="m-0 text-small">
              The longest is {slowest(plan)!.name}: {seconds(slowest(plan)!.seconds)}.
            </p>
          )}
          <ol className="m-0 list-none p-0">
            {plan.moves.map((m, i) => {
              const key = `${i} ${m.id}`;
              return (
                <li key={key} className={step === i + 1 ? "border-l-2 border-blue pl-1" : ""}>
                  <Tickbox on={done.includes(key)} onChange={(on) => setDone((d) => (on ? [...d, key] : d.filter((x) => x !== key)))}>
                    {words[m.do](m.name)}
                    <span className="narrow text-small text-quiet">
                      {m.way > 0 ? ` ${metres(m.way / 1000, units)},` : ""} {seconds(m.seconds)}
                    </span>
                    {m.caution !== "" && <span className="block text-small text-red">{m.caution}</span>}
                  </Tickbox>
                </li>
              );
            })}
          </ol>
          {plan.stuck.map((why) => (
            <p key={why} className="m-0 text-small font-semibold text-red">
              {why}.
            </p>
          ))}
          {plan.moves.length > 0 && (
            <div className="mt-1 flex flex-wrap items-baseline gap-x-3">
              <Button disabled={step === 0} onClick={() => setStep((n) => n - 1)}>
                Step back
              </Button>
              <Button disabled={step >= plan.moves.length} onClick={() => setStep((n) => n + 1)}>
                {step === 0 ? "Play it on the plan" : "Next step"}
              </Button>
              <Button onClick={printLists}>Print the lists</Button>
              {done.length >= plan.moves.length && now !== there(to) && (
                <Button kind="main" onClick={() => arrived.mutate({ base: revision, mode: there(to) }, { onSuccess: () => setDone([]) })}>
                  Done: the floor is like that now
                </Button>
              )}
            </div>
          )}
          <p className="m-0 text-small text-quiet">Power off and cool before a machine is moved; brakes on when it stands.</p>
        </div>
      )}
      {ready && (
        <div data-printed className="hidden print:block">
          {[
            { title: `${name(there(from))} to ${name(there(to))}`, plan },
            { title: `${name(there(to))} to ${name(there(from))}`, plan: back },
          ].map((l) => (
            <div key={l.title} className="mt-2">
              <h2 className="text-head font-bold">{l.title}</h2>
              <p>
                {l.plan &&
                  `${l.plan.moves.length} moves, ${seconds(l.plan.seconds)}. Power off before a machine is moved; brakes on when it stands.`}
              </p>
              <ol className="list-none p-0">
                {l.plan?.moves.map((m, i) => (
                  <li key={i} className="border-b border-line py-1">
                    ☐ {words[m.do](m.name)} {m.caution !== "" && <i>({m.caution})</i>}
                  </li>
                ))}
              </ol>
            </div>
          ))}
        </div>
      )}
    </div>
  );
}
