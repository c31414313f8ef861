import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, changed, keys, unwrap, type Effect, type FactField, type Round } from "../api/client";
import { useChange } from "../app/shop";
import { reason } from "../reason";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { More } from "../ui/More";
import { Tickbox } from "../ui/Tickbox";
import { TypedIn } from "../ui/TypedIn";
import { seconds } from "../units";

/** Pending is a fact that was typed and is not kept yet, with what it would change. */
interface Pending {
  field: FactField;
  text: string;
  effect?: Effect;
  why?: string;
}

/** Facts is what is said of the shop as a whole, and what each of it does. */
export function Facts({ round, revision }: { round: Round; revision: number }) {
  const groups = useQuery({
    queryKey: keys.facts(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/facts")),
    placeholderData: (before) => before,
  }).data;
  const [pending, setPending] = useState<Pending>();
  const [name, setName] = useState("");
  const keep = useChange(
    async (v: { base: number; entries: { path: string; text: string }[] }) => unwrap(await api.PATCH("/api/v1/facts", changed(v))),
    (r) => `${r.what}.`,
  );
  // What it would change is asked before it is kept.
  const type = async (field: FactField, text: string) => {
    setPending({ field, text });
    try {
      const effect = unwrap(await api.POST("/api/v1/facts/try", { body: { entries: [{ path: field.path, text }] } }));
      setPending({ field, text, effect });
    } catch (e) {
      setPending({ field, text, why: reason(e) });
    }
  };
  const take = () => {
    if (!pending) return;
    keep.mutate(
      { base: revision, entries: [{ path: pending.field.path, text: pending.text }] },
      { onSettled: () => setPending(undefined) },
    );
  };
  const people = groups?.filter((g) => g.id.startsWith("people/")) ?? [];
  return (
    <div className="round-scroll min-h-0 flex-1 overflow-y-auto" data-testid="facts">
      <div className="mx-auto flex max-w-280 flex-col gap-5 px-4 pt-4 pb-24 max-md:px-3">
        <h1 className="m-0 text-head font-bold">What holds for the whole shop</h1>
        {groups
          ?.filter((g) => !g.id.startsWith("people/"))
          .map((g) => (
            <div key={g.id} className="contents">
              <Section name={g.name} does={g.does} folded={g.id === "estimates" || g.id === "clear"}>
                {g.fields.map((f) => (
                  <Line key={f.path} field={f} pending={pending} onType={(of, t) => void type(of, t)} />
                ))}
              </Section>
              {g.id === "general" && (
                <Section
                  name="People"
                  does="Who fetches things. Bands of reach, what may be lifted and what is kept from children follow from them."
                >
                  {people.map((p) => (
                    <div key={p.id} className="border-t border-line pt-2 first:border-0" role="group" aria-label={p.name}>
                      <div className="flex items-baseline gap-3">
                        <h3 className="m-0 text-lead font-bold">{p.name}</h3>
                        <span className="flex-1 text-small text-quiet">{p.does}</span>
                        <Button onClick={() => keep.mutate({ base: revision, entries: [{ path: p.remove, text: "yes" }] })}>
                          Remove {p.name}
                        </Button>
                      </div>
                      {p.fields.slice(0, 9).map((f) => (
                        <Line key={f.path} field={f} pending={pending} onType={(of, t) => void type(of, t)} />
                      ))}
                      <More title="Measured heights">
                        {p.fields.slice(9).map((f) => (
                          <Line key={f.path} field={f} pending={pending} onType={(of, t) => void type(of, t)} />
                        ))}
                      </More>
                    </div>
                  ))}
                  {people.length === 0 && (
                    <p className="m-0 text-body">
                      Nobody is named yet: an adult of usual height is assumed. Say who works here, and how tall they are.
                    </p>
                  )}
                  <form
                    className="flex items-baseline gap-3 pt-1"
                    onSubmit={(e) => {
                      e.preventDefault();
                      if (name.trim() === "") return;
                      keep.mutate({ base: revision, entries: [{ path: "people/+", text: name.trim() }] }, { onSuccess: () => setName("") });
                    }}
                  >
                    <input
                      value={name}
                      onChange={(e) => setName(e.target.value)}
                      aria-label="Name of somebody else"
                      placeholder="a name"
                      className="w-45 border-b border-line bg-transparent px-1 py-0.5 text-body"
                    />
                    <button type="submit" className="px-0.5 py-1 font-semibold text-blue hover:underline">
                      Add somebody
                    </button>
                  </form>
                </Section>
              )}
            </div>
          ))}
      </div>
      {pending && (
        <section
          aria-label="What it changes"
          aria-live="polite"
          className="fixed inset-x-0 bottom-0 z-30 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-ink bg-sheet px-4 py-3 text-body max-md:bottom-[calc(3rem+1px+env(safe-area-inset-bottom))]"
          data-testid="effect"
        >
          <span className="min-w-0 flex-1">
            <b>
              {pending.field.label}: {pending.text === "" ? "not said" : pending.text}.
            </b>{" "}
            {pending.why ? (
              <span role="alert" className="text-red">
                {pending.why}
              </span>
            ) : pending.effect ? (
              <Changes effect={pending.effect} listed={round.items.length > 0} />
            ) : (
              "Working out what it changes …"
            )}
          </span>
          {!pending.why && (
            <Button kind="main" disabled={!pending.effect || keep.isPending} onClick={take}>
              Keep it
            </Button>
          )}
          <Button onClick={() => setPending(undefined)}>Leave it as it was</Button>
        </section>
      )}
    </div>
  );
}

/** Changes says what would be otherwise. */
function Changes({ effect: { now, then }, listed }: { effect: Effect; listed: boolean }) {
  const week = then.seconds - now.seconds;
  const by = (n: number, one: string, many: string) => `${Math.abs(n)} ${Math.abs(n) === 1 ? one : many} ${n > 0 ? "more" : "fewer"}`;
  const all = [
    Math.abs(week) >= 0.5 &&
      (week > 0 ? `${seconds(week)} more a week to fetch and put back` : `${seconds(-week)} less a week to fetch and put back`),
    then.ladder !== now.ladder &&
      by(then.ladder - now.ladder, "thing needs a ladder or can't be reached", "things need a ladder or can't be reached"),
    then.step !== now.step && by(then.step - now.step, "thing needs a step or something moved", "things need a step or something moved"),
    then.broken !== now.broken && by(then.broken - now.broken, "broken rule", "broken rules"),
    then.cautions !== now.cautions && by(then.cautions - now.cautions, "caution", "cautions"),
  ].filter((x) => x !== false);
  if (all.length > 0) return <>{all.join(", ")}.</>;
  return <>{listed ? "Nothing that is there is fetched otherwise." : "Nothing is listed yet that it could change."}</>;
}

function Section({ name, does, folded, children }: { name: string; does: string; folded?: boolean; children: React.ReactNode }) {
  const inner = <div className="flex flex-col gap-0.5">{children}</div>;
  return (
    <section aria-label={name} className="border border-line bg-sheet px-4 py-3">
      <h2 className="m-0 text-lead font-bold">{name}</h2>
      {does !== "" && <p className="m-0 mb-1 text-small text-quiet">{does}</p>}
      {folded ? <More title={`Show ${name.toLowerCase()}`}>{inner}</More> : inner}
    </section>
  );
}

/** Line is one fact: what it is, what is said, what it does. */
function Line({
  field: f,
  pending,
  onType,
}: {
  field: FactField;
  pending: Pending | undefined;
  onType: (f: FactField, text: string) => void;
}) {
  const waiting = pending?.field.path === f.path ? pending : undefined;
  const text = waiting?.text ?? f.text;
  return (
    <div className="flex items-baseline gap-3 py-0.5 max-md:flex-wrap" data-fact={f.path}>
      <span className="w-45 shrink-0 text-body max-md:w-30" id={`fact-${f.path}`}>
        {f.label}
      </span>
      <span className="flex w-65 shrink-0 items-baseline gap-1.5 max-md:w-auto max-md:min-w-0 max-md:flex-1">
        {f.many ? (
          <Several label={f.label} text={text} choices={f.choices} onType={(t) => onType(f, t)} />
        ) : f.choices.length > 0 ? (
          <Choices
            as="words"
            label={f.label}
            value={text === "" ? f.usual : text}
            choices={f.choices.map((c) => ({ value: c, name: c.replaceAll("-", " ") }))}
            onPick={(v) => v !== "" && onType(f, v)}
          />
        ) : (
          <label className="flex min-w-0 flex-1 items-baseline gap-1.5">
            <span className="sr-only">{f.label}</span>
            <TypedIn
              key={`${f.text} ${waiting ? "typed" : ""}`}
              value={text}
              onDone={(t) => onType(f, t)}
              onTyped={() => undefined}
              className="border-b border-line text-body font-semibold"
            />
            <span className="narrow shrink-0 text-small text-quiet">
              {f.unit}
              {f.text === "" && f.usual !== "" && ` ${f.usual} while nothing is said`}
            </span>
          </label>
        )}
      </span>
      <span className="min-w-0 flex-1 text-small text-quiet max-md:basis-full">{f.does}</span>
    </div>
  );
}

/** Several of some words: each is on or off. */
export function Several({
  label,
  text,
  choices,
  onType,
}: {
  label: string;
  text: string;
  choices: readonly string[];
  onType: (text: string) => void;
}) {
  const on = text.split(/[ ,]+/).filter((w) => w !== "");
  return (
    <span role="group" aria-label={label} className="flex flex-wrap gap-x-3 gap-y-1">
      {choices.map((c) => (
        <Tickbox key={c} on={on.includes(c)} onChange={(yes) => onType((yes ? [...on, c] : on.filter((o) => o !== c)).join(", "))}>
          {c.replaceAll("-", " ")}
        </Tickbox>
      ))}
    </span>
  );
}

export default Facts;
