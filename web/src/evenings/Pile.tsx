import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, onto, unwrap, type Piled, type Round } from "../api/client";
import { useChange } from "../app/shop";
import { useKept } from "../app/useKept";
import { useUnits } from "../app/useUnits";
import { inMonths } from "../day";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Do, Menu } from "../ui/Menu";
import { Pick } from "../ui/Pick";
import { fixed, squares } from "../units";
import { Timer } from "./Timer";

type Decision = "keep" | "elsewhere" | "sell" | "give" | "burn" | "tip" | "friend" | "decide";

const ways: { what: Decision; says: string }[] = [
  { what: "sell", says: "sell it" },
  { what: "give", says: "give it away" },
  { what: "friend", says: "to a friend's workshop" },
  { what: "burn", says: "burn it" },
  { what: "tip", says: "to the tip" },
];

/** Pile goes through a pile one thing after the other: keep here, move elsewhere, let go, decide by a day. */
export function Pile({ round, revision }: { round: Round; revision: number }) {
  const units = useUnits();
  const [of, setOf] = useKept("pile", "seldom");
  const [past, setPast] = useState<string[]>([]);
  const boxes = [...new Set(round.places.map((p) => p.id))].sort();
  const known = ["seldom", "unopened", "homeless", "limbo"].includes(of) || boxes.includes(of) ? of : "seldom";
  const pile = useQuery({
    queryKey: keys.pile(known, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/pile", { params: { query: { of: known } } })),
    placeholderData: (before) => before,
  }).data;
  const decide = useChange(
    async (v: { base: number; item: string; what: Decision; day?: string }) =>
      unwrap(await api.POST("/api/v1/pile", { headers: onto(v.base), body: { item: v.item, what: v.what, day: v.day } })),
    () => "Decided.",
  );
  const left = (pile?.things ?? []).filter((t) => !past.includes(t.item));
  const thing = left[0];
  const say = (t: Piled, what: Decision, day?: string) =>
    decide.mutate({ base: revision, item: t.item, what, day }, { onSuccess: () => setPast((p) => [...p, t.item]) });
  return (
    <Part title="One pile at a time">
      <Pick
        label="The pile"
        value={known}
        choices={[
          { value: "seldom", name: "what is used less than once a year" },
          { value: "unopened", name: "what is in boxes not opened for a year" },
          { value: "homeless", name: "what has no home" },
          { value: "limbo", name: "what is to be decided on, or goes" },
          ...boxes.map((b) => ({ value: b, name: `what is in ${b}` })),
        ]}
        onPick={(v) => {
          setOf(v);
          setPast([]);
        }}
      />
      <Timer done={past.length} />
      {thing ? (
        <div className="mt-2 border border-ink bg-sheet p-3" data-testid="pile">
          <span className="text-small text-quiet">
            {left.length} to go{past.length > 0 && `, ${past.length} done`}
          </span>
          <p className="m-0 text-head leading-tight font-bold">{thing.count > 1 ? `${thing.count} × ${thing.name}` : thing.name}</p>
          <p className="m-0 text-small">
            {thing.place === "" ? "without a home" : `lives in ${thing.place}`}
            {thing.wall > 0 && `, takes ${squares(thing.wall, units)} of wall`}
            {thing.litres >= 1 && `, ${fixed(thing.litres, 0)} litres`}
            {thing.goes !== "" && `; goes: ${thing.goes}`}
            {thing.review !== "" && `; to be decided by ${thing.review}`}
          </p>
          <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
            <Button kind="main" disabled={decide.isPending} onClick={() => say(thing, "keep")}>
              Keep it here
            </Button>
            <Button disabled={decide.isPending} onClick={() => say(thing, "elsewhere")}>
              Move it elsewhere
            </Button>
            <Menu name="Let it go">
              {ways.map((w) => (
                <Do key={w.what} onSelect={() => say(thing, w.what)}>
                  {w.says}
                </Do>
              ))}
            </Menu>
            <Button disabled={decide.isPending} onClick={() => say(thing, "decide", inMonths(3))}>
              Decide in three months
            </Button>
            <Button onClick={() => setPast((p) => [...p, thing.item])}>Not now</Button>
          </div>
        </div>
      ) : (
        pile && <p className="m-0 mt-1 text-quiet">{past.length > 0 ? "That pile is done." : "Nothing is in that pile."}</p>
      )}
      {pile && pile.won.things > 0 && (
        <p className="m-0 mt-1">
          {pile.won.things === 1 ? "1 thing goes" : `${pile.won.things} things go`}: that wins{" "}
          {pile.won.wall > 0.005 && `${squares(pile.won.wall, units)} of wall and `}
          {fixed(pile.won.litres, 0)} litres. Take them off the list once they are gone.
        </p>
      )}
    </Part>
  );
}
