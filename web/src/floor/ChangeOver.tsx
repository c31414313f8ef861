import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, onto, unwrap, type Move, type OpenFloor } from "../api/client";
import { useChange } from "../app/shop";
import { useKept } from "../app/useKept";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { metres, seconds, type Units } from "../units";

const words: Record<Move["do"], (name: string) => string> = {
  roll: (n) => `Roll ${n} to its spot`,
  "set aside": (n) => `Set ${n} aside for now`,
  fold: (n) => `Fold ${n}`,
  unfold: (n) => `Unfold ${n}`,
  hoist: (n) => `Hoist ${n}`,
  "let down": (n) => `Let ${n} down`,
  "take away": (n) => `Take ${n} out`,
  "bring in": (n) => `Bring ${n} in`,
};

/** openIn says how much floor is free, in words. */
const openIn = (units: Units) => (f: OpenFloor | undefined) =>
  f && f.w > 0 ? `free ${metres(f.w / 1000, units)} × ${metres(f.d / 1000, units)}` : "";

/** ChangeOver keeps arrangements of the floor and lists what is moved from one to another, to tick off. */
export function ChangeOver({ revision, units }: { revision: number; units: Units }) {
  const modes = useQuery({ queryKey: keys.modes(revision), queryFn: async () => unwrap(await api.GET("/api/v1/modes", {})) }).data ?? [];
  const free = useQuery({
    queryKey: keys.openFloor(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/open-floor", {})),
    enabled: modes.length > 0,
  }).data;
  const [from, setFrom] = useKept("change from", "");
  const [to, setTo] = useKept("change to", "");
  const [done, setDone] = useKept<string[]>("changed over", []);
  const [name, setName] = useState("");
  const [hours, setHours] = useState("");
  const keep = useChange(
    async (v: { base: number; name: string; hours: number }) =>
      unwrap(await api.POST("/api/v1/modes", { headers: onto(v.base), body: { name: v.name, hours: v.hours } })),
    (r) => `${r.what}.`,
  );
  const forget = useChange(
    async (v: { base: number; id: string }) =>
      unwrap(await api.DELETE("/api/v1/modes/{id}", { params: { path: { id: v.id } }, headers: onto(v.base) })),
    (r) => `${r.what}.`,
  );
  const open = openIn(units);
  const there = (id: string) => (id === "" || modes.some((m) => m.id === id) ? id : "");
  const plan = useQuery({
    queryKey: keys.changeOver(there(from), there(to), revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/change-over", { params: { query: { from: there(from), to: there(to) } } })),
    enabled: modes.length > 0 && there(from) !== there(to),
  }).data;
  const choices = [{ value: "", name: "as it stands" }, ...modes.map((m) => ({ value: m.id, name: m.name }))];
  const pick = (set: (v: string) => void) => (v: string) => {
    set(v);
    setDone([]);
  };
  const field = "border-b border-line bg-transparent px-1 py-0.5 placeholder:text-quiet";
  return (
    <section aria-label="Arrangements" className="border-t border-ink/50 pt-2 text-body" data-testid="arrangements">
      <h2 className="m-0 text-body font-bold">Arrangements of the floor</h2>
      {modes.length === 0 && (
        <p className="m-0 text-small text-quiet">
          A room that lives twice: put what rolls where it is while you work, keep that, then where it is for the night, and keep that too.
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {modes.map((m) => (
          <li key={m.id} className="flex items-baseline gap-2">
            <span className="min-w-0 flex-1 truncate">
              {m.name} <span className="narrow text-small text-quiet">{open(free?.find((f) => f.mode === m.id))}</span>
            </span>
            <span className="narrow text-small text-quiet">{m.hours_per_week ? `${m.hours_per_week} h a week` : ""}</span>
            <Button label={`Remove ${m.name}`} onClick={() => forget.mutate({ base: revision, id: m.id })}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="mt-1 flex flex-wrap items-baseline gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          const h = Number(hours.replace(",", ".") || 0);
          keep.mutate({ base: revision, name, hours: Number.isFinite(h) ? h : -1 }, { onSuccess: () => (setName(""), setHours("")) });
        }}
      >
        <input
          aria-label="Name of this arrangement"
          placeholder="this one is called"
          value={name}
          onChange={(e) => setName(e.target.value)}
          className={`${field} min-w-0 flex-1`}
        />
        <input
          aria-label="Hours a week it lasts"
          placeholder="h a week"
          value={hours}
          onChange={(e) => setHours(e.target.value)}
          className={`${field} w-20`}
        />
        <button type="submit" disabled={name.trim() === ""} className="font-semibold text-blue hover:underline disabled:opacity-60">
          Keep it
        </button>
      </form>
      {modes.length > 0 && (
        <>
          <div className="mt-2 flex flex-wrap items-baseline gap-x-2">
            <Pick label="From" value={there(from)} choices={choices} onPick={pick(setFrom)} />
            <span>to</span>
            <Pick label="To" value={there(to)} choices={choices} onPick={pick(setTo)} />
          </div>
          {there(from) === there(to) && <p className="m-0 text-small text-quiet">Choose another one to see what is moved.</p>}
          {plan && there(from) !== there(to) && (
            <div data-testid="change-over">
              <p className="m-0 text-small">
                {plan.moves.length === 0
                  ? "Nothing has to be moved."
                  : `${plan.moves.length} ${plan.moves.length === 1 ? "move" : "moves"}, ${seconds(plan.seconds)}${plan.fewest ? "; no fewer do." : `; at least ${plan.least} are needed.`}`}
              </p>
              <ol className="m-0 list-none p-0">
                {plan.moves.map((m, i) => {
                  const key = `${i} ${m.id}`;
                  return (
                    <li key={key}>
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
              <p className="m-0 text-small text-quiet">Power off and cool before a machine is moved; brakes on when it stands.</p>
            </div>
          )}
        </>
      )}
    </section>
  );
}
