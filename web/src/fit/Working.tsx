import { useState } from "react";
import { useShown } from "../app/shown";
import { Part } from "../sheet/Sheet";
import { Chips } from "../ui/Chips";
import { uses } from "../units";
import { useLearned, usePrices, useTakeLearned, useTogether, useWorking } from "./useWorking";
import { useUnits } from "../app/useUnits";
import { More } from "../ui/More";
import { useDone } from "../app/shop";

/** Together says which families a plan may not separate. */
export function Together({ revision }: { revision: number }) {
  const working = useWorking(revision);
  const set = useTogether();
  if (!working || working.families.length === 0) return null;
  return (
    <More
      title={working.together.length > 0 ? "Must stay together" : "Families that must stay together …"}
      open={working.together.length > 0}
    >
      <div className="pt-1">
        <Chips
          label="Families that must stay together"
          words={working.families}
          on={working.together}
          onChange={(families) => set.mutate({ base: revision, families })}
        />
      </div>
    </More>
  );
}

/** Costs are what material costs; without them no money is worked out. */
export function Costs({ revision }: { revision: number }) {
  const units = useUnits();
  const working = useWorking(revision);
  const set = usePrices();
  const [typed, setTyped] = useState<{ sheet?: string; rail?: string; currency?: string }>({});
  if (!working) return null;
  // What is kept is for a square metre and a metre.
  const [square, run] = units === "metric" ? [1, 1] : [0.09290304, 0.3048];
  const shown = (price: number, unit: number) => (price ? String(Math.round(price * unit * 1000) / 1000) : "");
  const now = { currency: working.currency, sheet: shown(working.sheet, square), rail: shown(working.rail, run), ...typed };
  const number = (text: string) => (text.trim() === "" ? 0 : Number(text.replace(",", ".")));
  const bad = [now.sheet, now.rail].some((t) => !(number(t) >= 0));
  const keep = () => {
    if (bad || Object.keys(typed).length === 0) return;
    set.mutate(
      {
        base: revision,
        currency: now.currency,
        sheet: typed.sheet === undefined ? working.sheet : number(now.sheet) / square,
        rail: typed.rail === undefined ? working.rail : number(now.rail) / run,
      },
      { onSuccess: () => setTyped({}) },
    );
  };
  const field = (name: "sheet" | "rail" | "currency", label: string, wide: string) => (
    <input
      aria-label={label}
      aria-invalid={(name !== "currency" && !(number(now[name]) >= 0)) || undefined}
      value={now[name]}
      maxLength={8}
      onChange={(e) => setTyped({ ...typed, [name]: e.target.value })}
      onBlur={keep}
      onKeyDown={(e) => e.key === "Enter" && keep()}
      className={`${wide} border-b border-line bg-transparent px-1 text-right aria-[invalid]:border-red aria-[invalid]:text-red`}
    />
  );
  return (
    <div className="mt-1 text-small">
      <div className="flex items-baseline justify-between gap-1">
        <span>prices in {field("currency", "Currency", "w-8.5")}</span>
        <span>
          {field("sheet", "Price of sheet", "w-11")} a {units === "metric" ? "m²" : "sq ft"} of sheet
        </span>
      </div>
      <div className="mt-0.5 text-right">
        {field("rail", "Price of rail", "w-11")} a {units === "metric" ? "m" : "foot"} of rail
      </div>
      {bad && (
        <p role="alert" className="text-small text-red">
          A price is a number, as 22.50.
        </p>
      )}
    </div>
  );
}

/** Learned sets what was said about uses beside what the log shows. */
export function Learned({ revision }: { revision: number }) {
  const rates = useLearned(revision);
  const take = useTakeLearned();
  const done = useDone();
  const { select } = useShown();
  if (!rates || rates.length === 0) return null;
  return (
    <Part title="Used otherwise than said">
      <ul className="round-scroll m-0 max-h-27.5 list-none overflow-y-auto p-0" aria-label="Used otherwise than said" tabIndex={0}>
        {rates.map((r) => (
          <li key={r.item} className="flex items-baseline justify-between gap-2 text-small">
            <button className="min-w-0 truncate text-left hover:text-blue" onClick={() => select({ kind: "item", id: r.item }, true)}>
              {r.name}
            </button>
            <span className="narrow shrink-0 text-small">
              <span className="text-quiet">{uses(r.said)}</span> → <b>{uses(r.learned)}</b>
            </span>
          </li>
        ))}
      </ul>
      <button
        className="mt-0.5 font-semibold text-blue hover:underline"
        disabled={take.isPending}
        onClick={() => take.mutate({ base: revision }, { onSuccess: (r) => done(`${r.what}.`, r) })}
      >
        Use what was noted
      </button>
    </Part>
  );
}
