import { useState } from "react";
import type { Round } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Tickbox } from "../ui/Tickbox";
import { Labelled } from "../ui/Labelled";
import { TypedIn } from "../ui/TypedIn";
import { ItemPick, named } from "./ItemPick";
import { useDull, useSetRecords, useSharpened, type DueToday } from "./useUpkeep";

/** Edges are the dull ones that wait for a batch, sharpened in one session. */
export function Edges({ d, round, revision }: { d: DueToday; round: Round; revision: number }) {
  const dull = useDull();
  const sharp = useSharpened();
  const set = useSetRecords();
  const [name, setName] = useState("");
  const [left, setLeft] = useState<string[]>([]);
  const ready = d.dull.filter((x) => !left.includes(x.id));
  const it = named(round, name);
  return (
    <Part title="Edges">
      {d.dull.length === 0 && <p className="m-0 text-quiet">None is dull, as far as anybody said.</p>}
      <div data-testid="dull">
        {d.dull.map((x) => (
          <Tickbox key={x.id} on={!left.includes(x.id)} onChange={(on) => setLeft(on ? left.filter((i) => i !== x.id) : [...left, x.id])}>
            {x.name}
            {x.place !== "" && (
              <span className="text-small text-quiet">
                {" "}
                {x.place}
                {x.side !== "" && `, on the ${x.side} while it is dull`}
              </span>
            )}
            {x.notes !== "" && <span className="block text-small text-quiet">{x.notes}</span>}
          </Tickbox>
        ))}
      </div>
      <form
        className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1"
        onSubmit={(e) => {
          e.preventDefault();
          if (it) dull.mutate({ base: revision, id: it.id, dull: true }, { onSuccess: () => setName("") });
        }}
      >
        <ItemPick round={round} label="What is dull" value={name} onChange={setName} />
        <Button type="submit" disabled={!it || dull.isPending}>
          It is dull
        </Button>
        {d.dull.length > 0 && (
          <Button
            kind="main"
            disabled={ready.length === 0 || sharp.isPending}
            onClick={() => sharp.mutate({ base: revision, items: ready.map((x) => x.id) }, { onSuccess: () => setLeft([]) })}
          >
            {ready.length === 1 ? "One is sharp again" : `${ready.length} are sharp again`}
          </Button>
        )}
      </form>
      <div className="mt-1 flex items-baseline gap-1 text-small text-quiet">
        <Labelled label="a batch is" after="edges" width="max-w-full">
          <TypedIn
            key={d.batch}
            value={String(d.batch)}
            onDone={(text) => Number(text) >= 1 && set.mutate({ base: revision, body: { dull_batch: Math.round(Number(text)) } })}
            onTyped={set.reset}
            className="w-12 border-b border-line text-right"
          />
        </Labelled>
      </div>
    </Part>
  );
}
