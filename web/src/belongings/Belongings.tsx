import { useMemo, useState } from "react";
import { toast } from "sonner";
import type { Round } from "../api/client";
import { Pick } from "../ui/Pick";
import { weight } from "../units";
import { LineEntry } from "./LineEntry";
import { List } from "./List";
import { columns, matching, sorted, totals, useRemove, useSet } from "./useList";

/** Belongings is the list of everything owned, one typed line at a time. */
export default function Belongings({ round, revision }: { round: Round; revision: number }) {
  const [filter, setFilter] = useState("");
  const [sort, setSort] = useState({ by: "name", down: false });
  const [chosen, setChosen] = useState<Set<string>>(new Set());
  const [fresh, setFresh] = useState<string>();
  const items = useMemo(() => sorted(matching(round.items, filter), sort.by, sort.down), [round.items, filter, sort]);
  const mine = useMemo(() => items.filter((i) => chosen.has(i.id)), [items, chosen]);
  const sum = totals(mine.length > 0 ? mine : items);
  const assumed = round.items.reduce((n, i) => n + i.assumed.filter((a) => a === "w" || a === "h" || a === "d").length, 0);

  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2 px-4 pt-3 pb-3" data-testid="belongings">
      <LineEntry revision={revision} units={round.units} onAdded={(ids) => setFresh(ids[0])} />
      <div className="flex items-center gap-4 text-[13.5px]">
        <input
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          aria-label="Show only"
          placeholder="show only: a word, @bench, #sharp, assumed, homeless"
          className="w-[390px] border-b border-line bg-transparent px-1 py-0.5 placeholder:text-quiet"
        />
        <span aria-live="polite" data-testid="sum">
          <b>{mine.length > 0 ? `${mine.length} chosen` : `${sum.lines} things`}</b>, {sum.pieces} pieces, {weight(sum.kg, round.units)}, {sum.wall.toFixed(1)} m² if all of it that can hangs, {sum.litres >= 1000 ? `${(sum.litres / 1000).toFixed(1)} m³` : `${Math.round(sum.litres)} l`}
        </span>
        {assumed > 0 && (
          <button className="ml-auto text-quiet hover:text-blue" onClick={() => setFilter(filter === "assumed" ? "" : "assumed")}>
            <i>{assumed} sizes assumed</i>
          </button>
        )}
      </div>
      <List items={items} revision={revision} units={round.units} sort={sort} onSort={(by) => setSort((s) => ({ by, down: s.by === by && !s.down }))} chosen={chosen} onChoose={setChosen} fresh={fresh} />
      {mine.length > 0 ? (
        <Together ids={mine.map((i) => i.id)} revision={revision} onDone={() => setChosen(new Set())} />
      ) : (
        <p className="text-[13px] text-quiet">Arrows go from cell to cell, typing or Enter changes one, Space chooses a row, Shift with an arrow chooses several. What is slanted is assumed until you type it. u undoes.</p>
      )}
    </div>
  );
}

/** Together changes one field of all that is chosen. */
function Together({ ids, revision, onDone }: { ids: string[]; revision: number; onDone: () => void }) {
  const [field, setField] = useState("family");
  const [text, setText] = useState("");
  const set = useSet();
  const remove = useRemove();
  const send = () => set.mutate({ base: revision, ids, field, text }, { onSuccess: (r) => toast(`${r.what}. Undo with u.`) });
  return (
    <form
      className="flex items-center gap-3 border border-ink bg-sheet px-3 py-1.5 text-[14px]"
      aria-label="Change all that is chosen"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <span className="font-bold">{ids.length} chosen:</span>
      <Pick label="Field to change" value={field} onPick={setField} choices={columns.filter((c) => c.field).map((c) => ({ value: c.field ?? "", name: c.title }))} />
      <input value={text} onChange={(e) => setText(e.target.value)} aria-label="New value for all" aria-invalid={set.isError || undefined} placeholder="the same for all" className="w-[220px] border-b border-line bg-transparent px-1 placeholder:text-quiet" />
      <button className="bg-blue px-3 py-1 font-bold text-sheet hover:brightness-110" disabled={set.isPending}>
        Set
      </button>
      {set.isError && (
        <span role="alert" className="text-red">
          {set.error.message}
        </span>
      )}
      <button type="button" className="ml-auto font-semibold text-red hover:underline" onClick={() => remove.mutate({ base: revision, ids }, { onSuccess: () => onDone() })}>
        Take off the list
      </button>
      <button type="button" className="font-semibold text-blue hover:underline" onClick={onDone}>
        Choose nothing
      </button>
    </form>
  );
}
