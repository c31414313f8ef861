import { useState } from "react";
import { inMonths } from "../day";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import type { Units } from "../units";
import { useSetRecords } from "../upkeep/useUpkeep";
import { figure } from "./Review";
import type { KeptDays } from "./useReview";

const whats = {
  "": "judged by hand",
  handling: "handling a week, seconds",
  homeless: "things without a home",
  "open-floor": "free floor, m², at least",
  untouched: "share not used for a year",
  "full-walls": "full walls",
  projects: "open projects",
  household: "room of the household, m²",
  "in-order": "share of series in order, at least",
} as const;
type What = keyof typeof whats;

/** Aims are what a year is to bring, by figures or by hand. */
export function Aims({ d, units, revision }: { d: KeptDays; units: Units; revision: number }) {
  const set = useSetRecords();
  const [name, setName] = useState("");
  const [what, setWhat] = useState<What>("");
  const [to, setTo] = useState("");
  const [weight, setWeight] = useState("1");
  const [by, setBy] = useState(inMonths(12));
  const all = d.aims.map((a) => ({
    id: a.id,
    name: a.name,
    ...(a.what ? { what: a.what } : {}),
    ...(a.to ? { to: a.to } : {}),
    ...(a.weight ? { weight: a.weight } : {}),
    ...(a.set ? { set: a.set } : {}),
    ...(a.by ? { by: a.by } : {}),
    ...(a.state ? { state: a.state } : {}),
  }));
  return (
    <Part title="Aims">
      {d.aims.length === 0 && <p className="m-0 text-quiet">None is written down. Write them before you move anything.</p>}
      <ul className="m-0 list-none p-0" data-testid="aims">
        {d.aims.map((a) => (
          <li key={a.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
            <span>{a.name}</span>
            <span
              className={`ml-auto text-small ${a.reached ? "font-semibold text-ink" : a.open || a.state === "dropped" ? "text-quiet" : "text-red"}`}
            >
              {a.state === "dropped" ? "dropped" : a.reached ? "reached" : a.open ? `open until ${a.by ?? "judged"}` : "missed"}
              {a.what && `, ${figure(a.what, a.now, units)} of ${figure(a.what, a.to ?? 0, units)}`}
            </span>
            {!a.what && !a.state && (
              <>
                <Button
                  disabled={set.isPending}
                  onClick={() =>
                    set.mutate({
                      base: revision,
                      body: { aims: all.map((x) => (x.id === a.id ? { ...x, state: "reached" as const } : x)) },
                    })
                  }
                >
                  Reached
                </Button>
                <Button
                  disabled={set.isPending}
                  onClick={() =>
                    set.mutate({ base: revision, body: { aims: all.map((x) => (x.id === a.id ? { ...x, state: "missed" as const } : x)) } })
                  }
                >
                  Missed
                </Button>
              </>
            )}
            <Button
              disabled={set.isPending}
              onClick={() => set.mutate({ base: revision, body: { aims: all.filter((x) => x.id !== a.id) } })}
            >
              Forget it
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate(
            {
              base: revision,
              body: {
                aims: [
                  ...all,
                  {
                    id: "",
                    name: name.trim(),
                    by,
                    ...(Number(weight) > 0 ? { weight: Number(weight) } : {}),
                    ...(what ? { what, to: Number(to.replace(",", ".")) || 0 } : {}),
                  },
                ],
              },
            },
            { onSuccess: () => (setName(""), setTo("")) },
          );
        }}
      >
        <input
          aria-label="What is aimed at"
          placeholder="everything has a home"
          value={name}
          onChange={(e) => setName(e.target.value)}
          className="w-56 border-b border-line bg-transparent px-1 placeholder:text-quiet"
        />
        <Pick
          label="What it is measured by"
          value={what}
          choices={(Object.keys(whats) as What[]).map((k) => ({ value: k, name: whats[k] }))}
          onPick={(k) => setWhat(k as What)}
        />
        {what !== "" && (
          <label className="flex items-baseline gap-1">
            to
            <input
              value={to}
              onChange={(e) => setTo(e.target.value)}
              className="w-20 border-b border-line bg-transparent px-1 text-right"
            />
          </label>
        )}
        <label className="flex items-baseline gap-1">
          by
          <input value={by} onChange={(e) => setBy(e.target.value)} className="w-28 border-b border-line bg-transparent px-1" />
        </label>
        <label className="flex items-baseline gap-1">
          counts
          <input
            value={weight}
            onChange={(e) => setWeight(e.target.value)}
            className="w-10 border-b border-line bg-transparent px-1 text-right"
          />
          times
        </label>
        <Button type="submit" disabled={set.isPending || name.trim() === ""}>
          Aim at it
        </Button>
      </form>
    </Part>
  );
}
