import { useState } from "react";
import type { Round } from "../api/client";
import { useUnits } from "../app/useUnits";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Labelled } from "../ui/Labelled";
import { TypedIn } from "../ui/TypedIn";
import { squares } from "../units";
import { ItemPick, named } from "./ItemPick";
import { useSetLimbo, useSetRecords, type DueToday } from "./useUpkeep";

const waits = { repair: "to be repaired", sell: "to be sold", give: "to be given away", decide: "to be decided" } as const;
type Limbo = keyof typeof waits;

/** Waiting are the things in limbo: since when, for what, to whom, and the room they take meanwhile. */
export function Waiting({ d, round, revision }: { d: DueToday; round: Round; revision: number }) {
  const units = useUnits();
  const set = useSetLimbo();
  const records = useSetRecords();
  const [name, setName] = useState("");
  const [limbo, setLimbo] = useState<Limbo>("decide");
  const [to, setTo] = useState("");
  const [by, setBy] = useState("");
  const it = named(round, name);
  const regret = it && d.regrets.find((r) => r.kind === it.kind || it.name.toLowerCase().includes(r.kind.toLowerCase()));
  const all = d.limbo.reduce((n, x) => n + x.m2, 0);
  return (
    <Part title="Waiting">
      {d.limbo.length === 0 ? (
        <p className="m-0 text-quiet">Nothing waits for repair, sale or a decision.</p>
      ) : (
        <p className="m-0">They take {squares(all, units)} of front meanwhile.</p>
      )}
      <ul className="m-0 list-none p-0" data-testid="limbo">
        {d.limbo.map((x) => (
          <li key={x.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
            <span>
              {x.name}
              <span className="text-small text-quiet">
                {" "}
                {waits[x.limbo]} since {x.since}
                {x.goes_to && `, to ${x.goes_to}`}
              </span>
            </span>
            <span className="ml-auto text-small text-quiet">{squares(x.m2, units)}</span>
            <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: x.id, body: { limbo: "" } })}>
              It stays
            </Button>
            {x.regret && <span className="w-full text-small text-red">You wrote once: {x.regret}</span>}
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
        onSubmit={(e) => {
          e.preventDefault();
          if (!it) return;
          set.mutate(
            { base: revision, id: it.id, body: { limbo, ...(to ? { goes_to: to } : {}), ...(by ? { review: by } : {}) } },
            { onSuccess: () => (setName(""), setTo(""), setBy("")) },
          );
        }}
      >
        <ItemPick round={round} label="What waits" value={name} onChange={setName} />
        <Pick
          label="For what it waits"
          value={limbo}
          choices={(Object.keys(waits) as Limbo[]).map((k) => ({ value: k, name: waits[k] }))}
          onPick={(k) => setLimbo(k as Limbo)}
        />
        <label className="flex items-baseline gap-1">
          goes to
          <input value={to} onChange={(e) => setTo(e.target.value)} className="w-32 border-b border-line bg-transparent px-1" />
        </label>
        <label className="flex items-baseline gap-1">
          decided by
          <input
            value={by}
            placeholder="2027-05-31"
            onChange={(e) => setBy(e.target.value)}
            className="w-28 border-b border-line bg-transparent px-1 placeholder:text-quiet"
          />
        </label>
        <Button type="submit" disabled={!it || set.isPending}>
          It waits
        </Button>
        {regret && <span className="w-full text-red">You wrote once: {regret.says}</span>}
      </form>
      <div className="flex items-baseline gap-1 text-small text-quiet">
        <Labelled label="looked at again after" after="days" width="max-w-full">
          <TypedIn
            key={d.limbo_days}
            value={String(d.limbo_days || 90)}
            onDone={(text) => Number(text) >= 1 && records.mutate({ base: revision, body: { limbo_days: Math.round(Number(text)) } })}
            onTyped={records.reset}
            className="w-12 border-b border-line text-right"
          />
        </Labelled>
      </div>
    </Part>
  );
}
