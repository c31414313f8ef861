import { useState } from "react";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { length, typedLength, type Units } from "../units";
import { useSetSupply, type Supplied } from "./useSupply";

type Kind = "stop" | "switch" | "crank" | "remote";
const kinds: Kind[] = ["stop", "switch", "crank", "remote"];
const field = "w-full border-b border-line bg-transparent";

/** Controls are the switches, stops, cranks and remotes of a machine, by where they are on it. */
export function Controls({ station: s, units, revision }: { station: Supplied["stations"][number]; units: Units; revision: number }) {
  const set = useSetSupply();
  const [kind, setKind] = useState<Kind>("stop");
  const [at, setAt] = useState({ x: "", y: "0", z: "" });
  const typed = (s.controls ?? []).map((c) => ({
    kind: c.kind,
    x: typedLength(c.x, units),
    y: typedLength(c.y, units),
    z: typedLength(c.z, units),
  }));
  return (
    <details className="mt-1">
      <summary className="cursor-pointer font-semibold text-blue">
        Its switch, stop, cranks and remote{typed.length > 0 && ` (${typed.length})`}
      </summary>
      {(s.controls ?? []).map((c, i) => (
        <p key={i} className="m-0 flex items-baseline gap-3 border-b border-line py-0.5">
          {c.kind}, {length(c.x, units)} from the left of its front, {length(c.y, units)} behind it, {length(c.z, units)} up
          <Button
            disabled={set.isPending}
            onClick={() => set.mutate({ base: revision, id: s.id, body: { controls: typed.filter((_, k) => k !== i) } })}
          >
            Forget it
          </Button>
        </p>
      ))}
      <form
        className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1"
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate(
            { base: revision, id: s.id, body: { controls: [...typed, { kind, ...at }] } },
            { onSuccess: () => setAt({ x: "", y: "0", z: "" }) },
          );
        }}
      >
        <Pick label="Which control" value={kind} choices={kinds.map((k) => ({ value: k, name: k }))} onPick={(k) => setKind(k as Kind)} />
        <Labelled label="from the left" width="w-40">
          <input value={at.x} onChange={(e) => setAt({ ...at, x: e.target.value })} className={field} />
        </Labelled>
        <Labelled label="behind the front" width="w-44">
          <input value={at.y} onChange={(e) => setAt({ ...at, y: e.target.value })} className={field} />
        </Labelled>
        <Labelled label="up" width="w-28">
          <input value={at.z} onChange={(e) => setAt({ ...at, z: e.target.value })} className={field} />
        </Labelled>
        <Button type="submit" disabled={set.isPending || at.x.trim() === "" || at.z.trim() === ""}>
          Add it
        </Button>
        {set.error && (
          <span role="alert" className="text-red">
            {set.error.message}
          </span>
        )}
      </form>
    </details>
  );
}
