import { useState } from "react";
import type { Item } from "../api/client";
import { useSet } from "../belongings/useList";
import { inMonths } from "../day";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { TypedIn } from "../ui/TypedIn";
import { day } from "../units";
import { all, pieces } from "./words";
import { useOut, useTap } from "./useDaily";

/** TakeIt is what is done with a thing by day: taken, put back, lent; and what goes with it. */
export function TakeIt({ item, revision }: { item: Item; revision: number }) {
  const tap = useTap();
  const set = useSet();
  const out = (useOut() ?? []).filter((o) => o.item === item.id);
  const gone = out.reduce((n, o) => n + pieces(o), 0);
  const [lending, setLending] = useState(false);
  const [to, setTo] = useState("");
  const [due, setDue] = useState(inMonths(1));
  const one = [{ item: item.id, n: 1 }];
  const field = (name: "with" | "set_up" | "due", label: string, value: string) => (
    <Labelled label={label} width="w-full">
      <TypedIn
        key={value}
        value={value}
        onDone={(text) => set.mutate({ base: revision, ids: [item.id], field: name, text })}
        onTyped={set.reset}
        className="w-full border-b border-line"
      />
    </Labelled>
  );
  return (
    <Part title="By day">
      {out.map((o) => (
        <div key={o.id} className="flex items-baseline justify-between gap-2 py-px">
          <span className={o.overdue ? "text-red" : ""}>
            {pieces(o) > 1 && `${o.n} × `}
            {o.to ? `lent to ${o.to}` : o.on ? `out: ${o.on}` : "out"}
            {o.days > 0 && `, ${o.days === 1 ? "since yesterday" : `${o.days} days`}`}
            {o.due && `, due ${day(o.due)}`}
          </span>
          <Button
            onClick={() =>
              void tap(
                {
                  what: o.what === "lent" ? "returned" : "put-back",
                  items: all([o]),
                  to: o.what === "lent" ? o.to : undefined,
                },
                `${item.name} back`,
              )
            }
          >
            {o.what === "lent" ? "It came back" : "Put back"}
          </Button>
        </div>
      ))}
      {gone < item.count && (
        <div className="flex flex-wrap items-center gap-x-4">
          <Button kind="main" onClick={() => void tap({ what: "taken", items: one, with: true }, `${item.name} taken`)}>
            Take it
          </Button>
          <Button onClick={() => setLending(!lending)}>Lend it …</Button>
        </div>
      )}
      {lending && (
        <form
          className="mt-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (to.trim() === "") return;
            setLending(false);
            void tap({ what: "lent", items: one, to: to.trim(), due }, `${item.name} lent to ${to.trim()}`);
          }}
        >
          <label className="flex items-baseline justify-between gap-2">
            <span className="text-small text-quiet">to whom</span>
            <input autoFocus value={to} onChange={(e) => setTo(e.target.value)} className="w-36 border-b border-line bg-transparent" />
          </label>
          <label className="flex items-baseline justify-between gap-2">
            <span className="text-small text-quiet">back by</span>
            <input value={due} onChange={(e) => setDue(e.target.value)} className="w-36 border-b border-line bg-transparent" />
          </label>
          <Button kind="main" type="submit">
            Lend it
          </Button>
        </form>
      )}
      {field("with", "goes with it", item.with.join(", "))}
      {field("set_up", "set up", item.set_up)}
      {field("due", "inspect or replace by", item.due)}
    </Part>
  );
}
