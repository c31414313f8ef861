import { useState } from "react";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { fixed } from "../units";
import { useSetStored, type StoredSaid, type Supplied } from "./useSupply";

const num = (text: string) => Number(text.replace(",", "."));
const field = "w-full border-b border-line bg-transparent text-right";

/** Batteries is what a session draws from batteries, where there is little or no mains. */
export function Batteries({ room, revision }: { room: Supplied; revision: number }) {
  const set = useSetStored();
  const said: StoredSaid = room.stored ?? { hours: 3, batteries: [], draws: [] };
  const put = (next: Partial<StoredSaid>, done?: () => void) =>
    set.mutate({ base: revision, stored: { ...said, ...next } }, { onSuccess: done });
  const [b, setB] = useState({ name: "", n: "", volts: "", ah: "", charge: "" });
  const [d, setD] = useState({ name: "", watts: "", minutes: "" });
  const batteries = said.batteries ?? [];
  const draws = said.draws ?? [];
  const budget = room.budget;
  return (
    <Part title="From batteries">
      {budget && budget.batteries.length > 0 && (
        <div data-testid="budget">
          {budget.batteries.map((x, i) => (
            <p key={x.name} className={`m-0 border-b border-line py-0.5 ${x.lasts > 0 ? "text-red" : ""}`}>
              <b>{x.name}</b>: {fixed(x.gives, 0)} of {fixed(x.holds, 0)} Wh can be used
              {x.draws > 0
                ? `, ${fixed(x.draws, 0)} Wh a session: ${x.lasts > 0 ? `empty after ${fixed(x.lasts, 1)} of ${fixed(budget.hours, 1)} h` : `${fixed(x.sessions, 1)} sessions`}${x.changes > 0 ? `, ${x.changes === 1 ? "one change" : `${x.changes} changes`} of pack` : ""}.`
                : ", nothing draws from them yet."}{" "}
              <Button disabled={set.isPending} onClick={() => put({ batteries: batteries.filter((_, k) => k !== i) })}>
                Forget them
              </Button>
            </p>
          ))}
          {draws.map((x, i) => (
            <p key={i} className="m-0 border-b border-line py-0.5 text-small">
              {x.name}: {fixed(x.watts, 0)} W {x.minutes ? `for ${fixed(x.minutes, 0)} min` : "all the session"}{" "}
              <Button disabled={set.isPending} onClick={() => put({ draws: draws.filter((_, k) => k !== i) })}>
                Forget it
              </Button>
            </p>
          ))}
          {budget.charge > 0 && (
            <p className="m-0 text-small text-quiet">
              Then {fixed(budget.charge, 0)} minutes of charging with{" "}
              {said.chargers && said.chargers > 1 ? `${said.chargers} chargers` : "one charger"}, while somebody is there.
            </p>
          )}
        </div>
      )}
      <details>
        <summary className="cursor-pointer font-semibold text-blue">There is little or no mains here</summary>
        <form
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (b.name.trim() === "" || !(num(b.n) >= 1) || !(num(b.volts) > 0) || !(num(b.ah) > 0)) return;
            put(
              {
                batteries: [
                  ...batteries,
                  {
                    name: b.name.trim(),
                    n: Math.round(num(b.n)),
                    volts: num(b.volts),
                    ah: num(b.ah),
                    ...(num(b.charge) > 0 ? { charge: num(b.charge) } : {}),
                  },
                ],
              },
              () => setB({ name: "", n: "", volts: "", ah: "", charge: "" }),
            );
          }}
        >
          <Labelled label="batteries" width="w-48">
            <input
              value={b.name}
              placeholder="18 V packs"
              onChange={(e) => setB({ ...b, name: e.target.value })}
              className="w-full border-b border-line bg-transparent placeholder:text-quiet"
            />
          </Labelled>
          <Labelled label="how many" width="w-28">
            <input value={b.n} onChange={(e) => setB({ ...b, n: e.target.value })} className={field} />
          </Labelled>
          <Labelled after="V" width="w-16">
            <input aria-label="Volts" value={b.volts} onChange={(e) => setB({ ...b, volts: e.target.value })} className={field} />
          </Labelled>
          <Labelled after="Ah" width="w-20">
            <input aria-label="Ampere-hours" value={b.ah} onChange={(e) => setB({ ...b, ah: e.target.value })} className={field} />
          </Labelled>
          <Labelled label="charged in" after="min" width="w-40">
            <input value={b.charge} onChange={(e) => setB({ ...b, charge: e.target.value })} className={field} />
          </Labelled>
          <Button type="submit" disabled={set.isPending}>
            Add them
          </Button>
        </form>
        {batteries.length > 0 && (
          <form
            className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
            onSubmit={(e) => {
              e.preventDefault();
              if (d.name.trim() === "" || !(num(d.watts) > 0)) return;
              put(
                {
                  draws: [
                    ...draws,
                    {
                      name: d.name.trim(),
                      watts: num(d.watts),
                      ...(num(d.minutes) > 0 ? { minutes: num(d.minutes) } : {}),
                      battery: batteries[batteries.length - 1]?.name ?? "",
                    },
                  ],
                },
                () => setD({ name: "", watts: "", minutes: "" }),
              );
            }}
          >
            <Labelled label="draws" width="w-40">
              <input
                value={d.name}
                placeholder="lamp"
                onChange={(e) => setD({ ...d, name: e.target.value })}
                className="w-full border-b border-line bg-transparent placeholder:text-quiet"
              />
            </Labelled>
            <Labelled after="W" width="w-20">
              <input aria-label="Watts" value={d.watts} onChange={(e) => setD({ ...d, watts: e.target.value })} className={field} />
            </Labelled>
            <Labelled label="for" after="min, or all of it" width="w-52">
              <input value={d.minutes} onChange={(e) => setD({ ...d, minutes: e.target.value })} className={field} />
            </Labelled>
            <Button type="submit" disabled={set.isPending}>
              Add it to {batteries[batteries.length - 1]?.name}
            </Button>
          </form>
        )}
        <div className="flex flex-wrap gap-x-4 py-1">
          <Labelled label="a session lasts" after="h" width="w-44">
            <input
              defaultValue={String(said.hours)}
              key={said.hours}
              onBlur={(e) =>
                num(e.target.value) > 0 &&
                num(e.target.value) <= 24 &&
                num(e.target.value) !== said.hours &&
                put({ hours: num(e.target.value) })
              }
              className={field}
            />
          </Labelled>
          <Labelled label="chargers" width="w-32">
            <input
              defaultValue={String(said.chargers ?? 1)}
              key={said.chargers ?? 1}
              onBlur={(e) =>
                num(e.target.value) >= 1 &&
                num(e.target.value) !== (said.chargers ?? 1) &&
                put({ chargers: Math.round(num(e.target.value)) })
              }
              className={field}
            />
          </Labelled>
        </div>
        {set.error && (
          <p role="alert" className="m-0 text-red">
            {set.error.message}
          </p>
        )}
      </details>
    </Part>
  );
}
