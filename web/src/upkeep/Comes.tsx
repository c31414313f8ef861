import { useState } from "react";
import type { Round } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Labelled } from "../ui/Labelled";
import { TypedIn } from "../ui/TypedIn";
import { ItemPick, named } from "./ItemPick";
import { useSetRecords, useSetUpkeep, type DueToday, type Upkeep } from "./useUpkeep";

const every = { days: "days", months: "months", uses: "uses", hours: "hours of the machine", yearly: "a year, on" } as const;
type Every = keyof typeof every;

/** often is how often work comes, in words. */
function often(u: Upkeep): string {
  for (const [k, says] of Object.entries(every) as [Every, string][]) {
    const n = u[k];
    if (n) return k === "yearly" ? `once a year, on ${n}` : `every ${n} ${says}`;
  }
  return "";
}

/** Comes is the work that comes again: by days, months, a day of the year, uses, hours. */
export function Comes({ d, round, revision }: { d: DueToday; round: Round; revision: number }) {
  const set = useSetUpkeep();
  const records = useSetRecords();
  const [name, setName] = useState("");
  const [on, setOn] = useState("");
  const [thing, setThing] = useState("");
  const [how, setHow] = useState<Every>("months");
  const [n, setN] = useState("");
  const [minutes, setMinutes] = useState("");
  const [last, setLast] = useState("");
  const [notes, setNotes] = useState("");
  const it = named(round, thing);
  const stations = round.plan.stations.map((s) => ({ value: s.id, name: s.name }));
  return (
    <Part title="Comes again">
      <ul className="m-0 list-none p-0" data-testid="comes">
        {d.upkeep.map((u) => (
          <li key={u.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
            <span>
              {u.name}
              {u.notes && <span className="text-small text-quiet"> {u.notes}</span>}
              {u.on && <span className="text-small text-quiet"> {d.names[u.on] ?? "gone"}</span>}
            </span>
            <span className="ml-auto text-small text-quiet">
              {often(u)}
              {u.last && `, last ${u.last}`}
              {u.until && `, put off to ${u.until}: ${u.why}`}
            </span>
            <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, upkeep: d.upkeep.filter((x) => x.id !== u.id) })}>
              Forget it
            </Button>
          </li>
        ))}
      </ul>
      <details open={d.upkeep.length === 0}>
        <summary className="cursor-pointer font-semibold text-blue">Something that comes again</summary>
        <form
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            const made: Upkeep = {
              id: "",
              name: name.trim(),
              [how]: how === "yearly" ? n.trim() : Number(n),
              ...(it ? { on: it.id } : on ? { on } : {}),
              ...(Number(minutes) > 0 ? { minutes: Number(minutes) } : {}),
              ...(last ? { last } : {}),
              ...(notes.trim() ? { notes: notes.trim() } : {}),
            };
            set.mutate(
              { base: revision, upkeep: [...d.upkeep, made] },
              { onSuccess: () => (setName(""), setN(""), setMinutes(""), setLast(""), setNotes(""), setThing("")) },
            );
          }}
        >
          <input
            aria-label="What is done"
            placeholder="empty the bag"
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="w-52 border-b border-line bg-transparent px-1 placeholder:text-quiet"
          />
          <Pick label="To which station" value={on} choices={[{ value: "", name: "to no station" }, ...stations]} onPick={setOn} />
          <ItemPick round={round} label="or to a thing" value={thing} onChange={setThing} />
          <label className="flex items-baseline gap-1">
            every
            <input value={n} onChange={(e) => setN(e.target.value)} className="w-16 border-b border-line bg-transparent px-1 text-right" />
          </label>
          <Pick
            label="Every what"
            value={how}
            choices={(Object.keys(every) as Every[]).map((k) => ({ value: k, name: every[k] }))}
            onPick={(k) => setHow(k as Every)}
          />
          <label className="flex items-baseline gap-1">
            takes
            <input
              value={minutes}
              onChange={(e) => setMinutes(e.target.value)}
              className="w-12 border-b border-line bg-transparent px-1 text-right"
            />
            min
          </label>
          <label className="flex items-baseline gap-1">
            last on
            <input
              value={last}
              placeholder="2026-05-31"
              onChange={(e) => setLast(e.target.value)}
              className="w-28 border-b border-line bg-transparent px-1 placeholder:text-quiet"
            />
          </label>
          <label className="flex items-baseline gap-1">
            with
            <input
              value={notes}
              placeholder="which oil, which strap"
              onChange={(e) => setNotes(e.target.value)}
              className="w-44 border-b border-line bg-transparent px-1 placeholder:text-quiet"
            />
          </label>
          <Button kind="main" type="submit" disabled={set.isPending || name.trim() === "" || n.trim() === ""}>
            Add it
          </Button>
          {set.error && (
            <span role="alert" className="text-red">
              {set.error.message}
            </span>
          )}
        </form>
      </details>
      <div className="mt-1 flex items-baseline gap-1 text-small text-quiet">
        <Labelled label="what must not freeze comes in on" after="" width="max-w-full">
          <TypedIn
            key={d.frost}
            value={d.frost || "10-15"}
            why={records.error?.message}
            onDone={(text) => records.mutate({ base: revision, body: { frost_moves: text } })}
            onTyped={records.reset}
            className="border-b border-line"
          />
        </Labelled>
      </div>
    </Part>
  );
}
