import { useQueries } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { Compared, Proposal, Round, Run } from "../api/client";
import { length, metres, seconds, squares, percent } from "../units";
import { Over } from "./Over";
import { orders } from "./Table";
import { proposalOf } from "./useFit";
import { priced, wishes } from "./Wishes";
import { Choices } from "../ui/Choices";
import { shade } from "../ui/windows";

/** row of the table: what it is called, how it stands, and in each plan; less is better when down. */
interface Line {
  name: string;
  before: string;
  plans: string[];
  best?: number[];
}

/** Beside sets the shop as it stands and all plans beside each other, wall by wall and figure by figure. */
export function Beside({ standing, kept, onOpen }: { standing: Round; kept: Run[]; onOpen: (r: Run) => void }) {
  const [shown, setShown] = useState(false);
  return (
    <Dialog.Root open={shown} onOpenChange={setShown}>
      <Dialog.Trigger className="mb-1.5 font-semibold text-blue hover:underline">All side by side</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className={shade} />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-6 top-5 bottom-5 z-50 flex flex-col border border-ink bg-sheet px-5 pt-3 pb-4 text-ink"
        >
          <div className="flex items-baseline justify-between">
            <Dialog.Title className="text-head font-bold">
              As it stands and {kept.length === 1 ? "one plan" : `${kept.length} plans`}
            </Dialog.Title>
            <Dialog.Close className="font-semibold text-blue hover:underline">Close</Dialog.Close>
          </div>
          <Side
            standing={standing}
            kept={kept}
            onOpen={(r) => {
              setShown(false);
              onOpen(r);
            }}
          />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Side({ standing, kept, onOpen }: { standing: Round; kept: Run[]; onOpen: (r: Run) => void }) {
  const answers = useQueries({ queries: kept.map((r) => proposalOf(r.id, true)) });
  const walls = standing.elevations.filter((s) => !s.middle);
  const [at, setAt] = useState("all");
  const wall = walls[Number(at)];
  const plans = answers.map((a) => a.data);
  const ready = plans.filter((p): p is Proposal => p !== undefined);
  const first = ready[0];
  if (!first || ready.length < plans.length) return <p className="py-3 text-quiet">Drawing the plans …</p>;
  const lines = rows(standing, ready);
  return (
    <>
      <div className="mb-1 flex items-center gap-2 text-small">
        <span>walls drawn over each other:</span>
        <Choices
          as="strip"
          label="Wall drawn"
          className="flex border border-line"
          value={at}
          choices={[{ value: "all", name: "all" }, ...walls.map((w, i) => ({ value: String(i), name: w.id }))]}
          onPick={setAt}
        />
        <span className="ml-3 text-quiet">
          <svg width="22" height="10" className="mr-1 inline" aria-hidden>
            <rect x="1" y="1" width="20" height="8" fill="none" stroke="var(--red)" strokeDasharray="4 2" />
          </svg>
          as it stands
          <svg width="22" height="10" className="mr-1 ml-4 inline" aria-hidden>
            <rect x="1" y="1" width="20" height="8" fill="var(--wood)" stroke="var(--wood-line)" />
          </svg>
          in the plan
        </span>
      </div>
      <div className="round-scroll min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="The plans beside each other">
        <table
          className="table-fixed border-collapse text-small"
          style={{ width: `min(100%, ${238 + 320 * (1 + ready.length)}px)` }}
          aria-label="Plans side by side"
        >
          <thead className="sticky top-0 bg-sheet">
            <tr className="align-bottom">
              <th className="w-59.5" />
              <th className="px-2 pb-1 text-right font-bold">
                <Over after={standing} wall={wall} title="as it stands" />
                as it stands
              </th>
              {ready.map((p, i) => {
                const run = kept[i];
                return (
                  <th key={p.run.id} className="px-2 pb-1 text-right font-bold">
                    <Over before={standing} after={p.round} wall={wall} title={`${p.run.title} over as it stands`} />
                    <button className="text-blue hover:underline" onClick={() => run && onOpen(run)}>
                      {p.run.title}
                    </button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {lines.map((l, k) =>
              l.name === "" ? (
                <tr key={k} aria-hidden>
                  <td colSpan={2 + ready.length} className="h-2" />
                </tr>
              ) : (
                <tr key={l.name} className="border-b border-line/60">
                  <th scope="row" className={`truncate py-0.5 text-left font-normal ${l.name.startsWith("paid") ? "narrow" : ""}`}>
                    {l.name}
                  </th>
                  <td className="px-2 text-right text-quiet">{l.before}</td>
                  {l.plans.map((v, i) => (
                    <td key={i} className={`px-2 text-right ${l.best?.includes(i) ? "font-bold" : ""}`}>
                      {v}
                    </td>
                  ))}
                </tr>
              ),
            )}
          </tbody>
        </table>
        <p className="mt-1 text-small text-quiet">The best of the plans in each line is bold. Walking is a part of the handling.</p>
      </div>
    </>
  );
}

/** shareOf a pair of counts, before and after. */
const shareOf = (a: { before: number; after: number }, of: { before: number; after: number }) => ({
  before: a.before / (of.before || 1),
  after: a.after / (of.after || 1),
});

/** rows of the table, in the order in which one asks. */
export function rows(standing: Round, plans: Proposal[]): Line[] {
  const gap: Line = { name: "", before: "", plans: [] };
  /** line of figures; sign says whether more (1) or less (-1) is better, 0 neither. */
  const line = (
    name: string,
    before: number | undefined,
    values: (number | undefined)[],
    write: (n: number) => string,
    sign = -1,
  ): Line => {
    const known = values.filter((v): v is number => v !== undefined);
    const top = sign > 0 ? Math.max(...known) : Math.min(...known);
    const all = known.length > 1 && known.every((v) => v === top);
    return {
      name,
      before: before === undefined ? "" : write(before),
      plans: values.map((v) => (v === undefined ? "" : write(v))),
      best: sign === 0 || all || known.length < 2 ? undefined : values.flatMap((v, i) => (v === top ? [i] : [])),
    };
  };
  const whole = (n: number) => length(n, "metric");
  const units = standing.units;
  const share = (n: number) => `${percent(n)}`;
  const pair = (
    name: string,
    of: (t: Compared) => { before: number; after: number } | undefined,
    write: (n: number) => string,
    sign = -1,
  ) =>
    line(
      name,
      plans.map((p) => of(p.table)?.before).find((b) => b !== undefined),
      plans.map((p) => of(p.table)?.after),
      write,
      sign,
    );
  const stations = [...new Set(plans.flatMap((p) => p.table.stations.map((s) => s.name)))];
  const built = plans.some((p) => p.made);
  const material = (name: string, of: (m: NonNullable<Proposal["made"]>) => number, write: (n: number) => string, sign = -1) =>
    line(
      name,
      undefined,
      plans.map((p) => (p.made ? of(p.made) : undefined)),
      write,
      sign,
    );
  return [
    line(
      "handling a week",
      standing.totals.seconds,
      plans.map((p) => p.run.objective),
      seconds,
    ),
    line(
      "from the best possible, at most",
      undefined,
      plans.map((p) => (p.run.objective > 0 ? Math.max(0, 1 - p.run.bound / p.run.objective) : 0)),
      (n) => percent(n, 1),
      0,
    ),
    line(
      "saved in nine of ten months, at least",
      undefined,
      plans.map((p) => Math.max(0, p.table.sure.low)),
      seconds,
      1,
    ),
    pair(
      "on foot a week",
      (t) => t.walked,
      (n) => metres(n, units, 0),
    ),
    pair("and the time it takes", (t) => t.walking, seconds),
    gap,
    ...orders.map((o, i) =>
      pair(i === 0 ? "pieces with no home" : `order ${o}`, (t) => t.orders[i], whole, i === 1 ? 1 : i === 2 ? 0 : -1),
    ),
    gap,
    pair("places in use", (t) => t.in_use, whole, 0),
    pair("with their growth room left", (t) => t.roomy, whole, 1),
    pair("filled, on the mean", (t) => t.fill, share, 0),
    pair("of series, in order one can see", (t) => shareOf(t.in_order, t.series), share, 1),
    pair("cautions", (t) => t.minded, whole),
    line(
      "things that move",
      undefined,
      plans.map((p) => p.moves.length),
      whole,
    ),
    ...wishes.flatMap((w) => {
      const paid = plans.map((p) => p.table.paid.find((x) => x.name === w.name)?.paid ?? 0);
      return paid.some((x) => x > 0.005) ? [line(`paid: ${w.says}`, undefined, paid, (n) => priced(Math.round(n * 100) / 100))] : [];
    }),
    ...(built
      ? [
          gap,
          material("to build", (m) => m.made.length, whole),
          material("hours of building", (m) => m.hours, whole),
          material("holes in walls", (m) => m.holes, whole),
          material(
            "sheet",
            (m) => m.sheet,
            (n) => squares(n, units),
          ),
          material(
            "rail",
            (m) => m.rail,
            (n) => metres(n, units),
          ),
          ...(plans.some((p) => p.made && p.made.money > 0) ? [material("that costs", (m) => m.money, whole)] : []),
          material(
            "floor left free",
            (m) => m.floor_free,
            (n) => squares(n, units),
            1,
          ),
          material(
            "wall left free",
            (m) => m.wall_free,
            (n) => squares(n, units),
            1,
          ),
        ]
      : []),
    gap,
    ...stations.map((name) => pair(name, (t) => t.stations.find((s) => s.name === name), seconds)),
  ];
}
