import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type Move } from "../api/client";
import { useKept } from "../app/useKept";
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

/** ChangeOver lists what is moved from one arrangement of the floor to another, to tick off. */
export function ChangeOver({ revision, units }: { revision: number; units: Units }) {
  const modes = useQuery({ queryKey: keys.modes(revision), queryFn: async () => unwrap(await api.GET("/api/v1/modes", {})) }).data ?? [];
  const [from, setFrom] = useKept("change from", "");
  const [to, setTo] = useKept("change to", "");
  const [done, setDone] = useKept<string[]>("changed over", []);
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
  return (
    <section aria-label="Arrangements" className="border-t border-ink/50 pt-2 text-body" data-testid="arrangements">
      <h2 className="m-0 text-body font-bold">Change the floor over</h2>
      {modes.length === 0 && (
        <p className="m-0 text-small text-quiet">
          A room that lives twice: put what rolls where it is while you work, keep that, then where it is for the night, and keep that too.
        </p>
      )}
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
