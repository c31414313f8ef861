import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import type { Round } from "../api/client";
import { Part } from "../sheet/Sheet";
import { metres, seconds, squares } from "../units";
import { useKept } from "../app/useKept";
import { Chips } from "../ui/Chips";
import { Pick } from "../ui/Pick";
import { Radios } from "../ui/Radios";
import { Beside } from "./Beside";
import { Over } from "./Over";
import { proposalOf, useChoices, type Fit, type Question, type Style } from "./useFit";
import { Costs } from "./Working";
import { useUnits } from "../app/useUnits";
import { Tickbox } from "../ui/Tickbox";

/** What may be built at most. */
const fields = [
  { id: "sheet", name: "sheet", after: "" },
  { id: "money", name: "money, at the prices below", after: "" },
  { id: "hours", name: "hours of building", after: "" },
  { id: "evenings", name: "evenings of two hours", after: "", whole: true },
  { id: "holes", name: "holes in walls", after: "", whole: true },
  { id: "pieces", name: "pieces", after: "", whole: true },
] as const;

const wholly = (id: string) => fields.some((f) => f.id === id && "whole" in f);

/** The limits as typed, read; and the first of them that cannot be. */
function read(limits: Record<string, string>, imperial: boolean) {
  const most: Record<string, number> = {};
  let bad = "";
  for (const f of fields) {
    const text = (limits[f.id] ?? "").trim().replace(",", ".");
    if (text === "") continue;
    const n = Number(text);
    if (!(n >= 0) || (wholly(f.id) && !Number.isInteger(n))) bad ||= f.id;
    most[f.id] = f.id === "sheet" && imperial ? n * 0.09290304 : n;
  }
  return { most, bad };
}

/** Styles start a proposal for new storage. */
export function Styles({ fit, round, revision }: { fit: Fit; round: Round; revision: number }) {
  const [bare, setBare] = useState(false);
  const [kept, setKept] = useState<string[]>([]);
  const [limit, setLimit] = useKept("storage seconds", 30);
  const [limits, setLimits] = useKept<Record<string, string>>("storage limits", {});
  const choices = useChoices();
  if (!choices) return null;
  const budget = read(limits, round.units === "imperial");
  // What hangs or stands by itself; what is in it stays with it.
  const storage = [
    ...round.things.filter((t) => !t.station).map((t) => t.id),
    ...round.places.filter((p) => p.elevation >= 0 && !p.host).map((p) => p.id),
  ];
  return (
    <Part title="Or plan new storage">
      {choices.styles.map((s) => (
        <button
          key={s.id}
          className="block w-full border-b border-line/50 py-1 text-left hover:text-blue disabled:text-quiet"
          disabled={budget.bad !== ""}
          onClick={() => fit.propose(s.id as Style, bare, bare ? kept : [], limit, budget.most)}
        >
          <b className="text-blue">{s.title}</b> <span className="text-small text-quiet">{s.about}</span>
        </button>
      ))}
      <div className="mt-1 text-small">
        <Tickbox on={bare} onChange={setBare}>
          from bare walls, all that hangs or stands now taken down
        </Tickbox>
      </div>
      {bare && (
        <div className="mt-1">
          <p className="mb-1 text-small">but keep where it is:</p>
          <Chips label="Storage that is kept" words={storage} on={kept} onChange={setKept} />
        </div>
      )}
      <div className="mt-1 flex flex-wrap gap-x-3 text-small">
        <span>try for</span>
        <Radios
          label="Try for"
          value={String(limit)}
          choices={[5, 30, 120].map((s) => ({ value: String(s), name: `${s} s` }))}
          onPick={(s) => setLimit(Number(s))}
        />
      </div>
      <fieldset className="m-0 mt-1 border-0 p-0 text-small">
        <legend className="p-0">no more than</legend>
        {fields.map((f) => (
          <label key={f.id} className="grid grid-cols-[1fr_4.5rem_3rem] items-baseline gap-1">
            {f.name}
            <input
              inputMode={wholly(f.id) ? "numeric" : "decimal"}
              value={limits[f.id] ?? ""}
              placeholder="any"
              aria-invalid={budget.bad === f.id}
              onChange={(e) => setLimits({ ...limits, [f.id]: e.target.value })}
              className="w-full min-w-0 border-b border-line bg-transparent text-right placeholder:text-quiet aria-[invalid=true]:border-red aria-[invalid=true]:text-red"
            />
            <span>{f.id === "sheet" ? (round.units === "imperial" ? "sq ft" : "m²") : f.after}</span>
          </label>
        ))}
      </fieldset>
      {budget.bad && (
        <p role="alert" className="text-small text-red">
          {fields.find((f) => f.id === budget.bad)?.name}: “{limits[budget.bad]}” is not a {wholly(budget.bad) ? "whole number" : "number"}{" "}
          such as 12. Leave it empty for any.
        </p>
      )}
      <Costs revision={revision} />
    </Part>
  );
}

/** WhatIf asks what homes would cost if the shop were otherwise. */
export function WhatIf({ fit, round }: { fit: Fit; round: Round }) {
  const [at, setAt] = useState("0");
  const families = new Map<string, number>();
  for (const i of round.items) if (i.family) families.set(i.family, (families.get(i.family) ?? 0) + i.count);
  const asks: { name: string; question: Question }[] = [
    ...round.elevations
      .filter((s) => s.claimed && !s.middle)
      .map((s) => ({ name: `wall ${s.id} were left alone`, question: { wall: s.id, area: s.area } })),
    ...round.things.filter((t) => !t.station).map((t) => ({ name: `${t.id} ${t.name} were not there`, question: { without: t.id } })),
    ...[...families].filter(([, n]) => n >= 4).map(([f]) => ({ name: `there were 15 % more ${f}`, question: { family: f, more: 0.15 } })),
    ...(round.units === "imperial" ? ["5 ft", "6 ft 4 in"] : ["1500 mm", "1950 mm"]).map((h) => ({
      name: `somebody of ${h} worked here`,
      question: { stature: h },
    })),
  ];
  const chosen = asks[Number(at)];
  return (
    <Part title="What if">
      <div className="flex items-center gap-2">
        <div className="min-w-0 flex-1">
          <Pick label="What if" value={at} choices={asks.map((a, i) => ({ value: String(i), name: a.name }))} onPick={setAt} />
        </div>
        <button
          className="shrink-0 font-semibold text-blue hover:underline"
          disabled={!chosen}
          onClick={() => chosen && fit.wonder(chosen.question)}
        >
          See
        </button>
      </div>
    </Part>
  );
}

/** Plans sets the plans that were made side by side, each as a small round that can be opened. */
export function Plans({ fit, standing }: { fit: Fit; standing: Round }) {
  const units = useUnits();
  const all = useQueries({ queries: fit.kept.map((r) => proposalOf(r.id, true)) });
  if (fit.kept.length === 0) return null;
  return (
    <Part title="Plans so far">
      <div className="mb-1 flex justify-between text-small text-quiet">
        <span>as it stands</span>
        <span>
          {seconds(standing.totals.seconds)}, {standing.totals.homeless} without a home
        </span>
      </div>
      <Beside standing={standing} kept={fit.kept} onOpen={fit.open} />
      {fit.kept.map((r, i) => {
        const p = all[i]?.data;
        return (
          <button
            key={r.id}
            className="mb-1.5 block w-full border border-line bg-paper p-1.5 text-left hover:border-blue"
            onClick={() => fit.open(r)}
            aria-label={`Open the plan ${r.title}, ${seconds(r.objective)} a week`}
          >
            <span className="flex justify-between gap-2">
              <b className="text-blue">{r.title}</b>
              <b>{seconds(r.objective)}</b>
            </span>
            {p && (
              <div className="my-1">
                <Over before={standing} after={p.round} />
              </div>
            )}
            <span className="narrow block text-small text-quiet">
              {r.homeless > 0 ? `${r.homeless} without a home, ` : ""}
              {p?.made
                ? `${p.made.made.length} to build, ${squares(p.made.sheet, units, 0)} of sheet, ${metres(p.made.rail, units, 0)} of rail, ${squares(p.made.wall_free, units, 0)} of wall left`
                : p
                  ? `${p.moves.length} things move`
                  : "…"}
            </span>
          </button>
        );
      })}
    </Part>
  );
}
