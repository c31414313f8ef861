import type { Compared } from "../api/client";
import { metres, seconds, percent } from "../units";
import { priced, wishes } from "./Wishes";
import { useUnits } from "../app/useUnits";

export const orders = ["no home", "1 at hand", "2 a few steps", "3 open, move, step up", "4 ladder, roll out"];

/** Table sets the shop as it stands beside the plan. */
export function Table({ table }: { table: Compared }) {
  const units = useUnits();
  const line = (name: string, before: string, after: string, better: number) => (
    <tr key={name}>
      <th scope="row" className="max-w-23.5 truncate py-px pr-1 text-left font-normal">
        {name}
      </th>
      <td className="pl-2 text-right whitespace-nowrap text-quiet">{before}</td>
      <td className={`pl-2 text-right whitespace-nowrap ${better > 0 ? "font-semibold" : better < 0 ? "text-red" : ""}`}>{after}</td>
    </tr>
  );
  return (
    <table className="w-full border-collapse text-small" aria-label="As it stands beside the plan">
      <thead>
        <tr className="narrow text-small text-quiet">
          <th className="text-left font-normal">a week, by station</th>
          <th className="text-right font-normal">now</th>
          <th className="text-right font-normal">plan</th>
        </tr>
      </thead>
      <tbody>
        {table.stations.map((s) => line(s.name, seconds(s.before), seconds(s.after), s.before - s.after))}
        <tr aria-hidden>
          <td className="h-1.5" />
        </tr>
        {table.orders.map((o, i) =>
          line(orders[i] ?? o.name, String(o.before), String(o.after), i === 1 ? o.after - o.before : i === 2 ? 0 : o.before - o.after),
        )}
        {line(
          "on foot",
          metres(table.walked.before, units, 0),
          metres(table.walked.after, units, 0),
          table.walked.before - table.walked.after,
        )}
        {line("walking", seconds(table.walking.before), seconds(table.walking.after), table.walking.before - table.walking.after)}
        {line(
          "with growth room",
          `${table.roomy.before} of ${table.in_use.before}`,
          `${table.roomy.after} of ${table.in_use.after}`,
          table.roomy.after / (table.in_use.after || 1) - table.roomy.before / (table.in_use.before || 1),
        )}
        {line(
          "in order",
          `${table.in_order.before} of ${table.series.before}`,
          `${table.in_order.after} of ${table.series.after}`,
          table.in_order.after / (table.series.after || 1) - table.in_order.before / (table.series.before || 1),
        )}
        {line("filled", `${percent(table.fill.before)}`, `${percent(table.fill.after)}`, 0)}
        {line("cautions", String(table.minded.before), String(table.minded.after), table.minded.before - table.minded.after)}
        <tr aria-hidden>
          <td className="h-1.5" />
        </tr>
        {table.paid
          .filter((p) => p.paid > 0)
          .map((p) => (
            <tr key={p.name}>
              <th scope="row" colSpan={2} className="py-px text-left font-normal">
                {wishes.find((w) => w.name === p.name)?.says ?? p.name}
              </th>
              <td className="text-right whitespace-nowrap">{priced(Math.round(p.paid * 100) / 100)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}
