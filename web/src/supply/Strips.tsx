import { useState } from "react";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { fixed, typedLength, type Units } from "../units";
import { useSetStrips, type StripTyped, type Supplied } from "./useSupply";

/** Strips are the power strips and reels: what each is plugged into, and what hangs on it. */
export function Strips({ room, units, revision }: { room: Supplied; units: Units; revision: number }) {
  const set = useSetStrips();
  const [name, setName] = useState("");
  const [lead, setLead] = useState("");
  const [rated, setRated] = useState("");
  const [into, setInto] = useState("");
  const [reel, setReel] = useState(false);
  const [overhead, setOverhead] = useState(false);
  const all: StripTyped[] = room.all_strips.map((x) => ({ ...x, lead: typedLength(x.lead, units) }));
  const places = [
    { value: "", name: "nothing yet" },
    ...room.plan.outlets.map((o) => ({ value: o.id, name: o.name })),
    ...room.all_strips.map((x) => ({ value: x.id, name: x.name })),
  ];
  return (
    <div className="mt-2" data-testid="strips">
      {room.all_strips.map((x) => {
        const load = room.strips.find((l) => l.id === x.id);
        return (
          <div key={x.id} className="border-b border-line py-1">
            <div className="flex flex-wrap items-baseline gap-x-3">
              <b>{x.name}</b>
              <span>in</span>
              <Pick
                label={`${x.name} is plugged into`}
                value={x.into ?? ""}
                choices={places.filter((p) => p.value !== x.id)}
                onPick={(to) => set.mutate({ base: revision, strips: all.map((s) => (s.id === x.id ? { ...s, into: to } : s)) })}
              />
              <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, strips: all.filter((s) => s.id !== x.id) })}>
                Forget it
              </Button>
            </div>
            {load && (
              <span className={`block text-small ${load.rated > 0 && load.amps > load.rated ? "text-red" : "text-quiet"}`}>
                {load.machines.length > 0 ? load.machines.join(", ") : "nothing is plugged into it"}
                {load.amps > 0 &&
                  `: ${fixed(load.amps, 1)} A${load.rated > 0 ? ` of ${fixed(load.rated, 0)}` : ", nobody read what it carries"}`}
                {load.chain > 1 && `, ${load.chain} one into another`}
              </span>
            )}
          </div>
        );
      })}
      <details>
        <summary className="cursor-pointer font-semibold text-blue">A power strip or reel</summary>
        <form
          className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (name.trim() === "" || lead.trim() === "") return;
            set.mutate(
              {
                base: revision,
                strips: [...all, { name: name.trim(), lead, into, reel, overhead, rated: Number(rated.replace(",", ".")) || 0 }],
              },
              { onSuccess: () => (setName(""), setLead(""), setRated(""), setInto(""), setReel(false), setOverhead(false)) },
            );
          }}
        >
          <Labelled label="called" width="w-56">
            <input
              value={name}
              placeholder="strip at the bench"
              onChange={(e) => setName(e.target.value)}
              className="w-full border-b border-line bg-transparent placeholder:text-quiet"
            />
          </Labelled>
          <Labelled label="lead" width="w-32">
            <input value={lead} onChange={(e) => setLead(e.target.value)} className="w-full border-b border-line bg-transparent" />
          </Labelled>
          <Labelled label="carries" after="A" width="w-32">
            <input
              value={rated}
              onChange={(e) => setRated(e.target.value)}
              className="w-full border-b border-line bg-transparent text-right"
            />
          </Labelled>
          <span className="flex items-baseline gap-1">
            in <Pick label="It is plugged into" value={into} choices={places} onPick={setInto} />
          </span>
          <Tickbox on={reel} onChange={setReel}>
            wound on a drum
          </Tickbox>
          <Tickbox on={overhead} onChange={setOverhead}>
            hangs from the ceiling
          </Tickbox>
          <Button kind="main" type="submit" disabled={set.isPending || name.trim() === "" || lead.trim() === ""}>
            Add it
          </Button>
          {set.error && (
            <span role="alert" className="text-red">
              {set.error.message}
            </span>
          )}
        </form>
      </details>
    </div>
  );
}
