import type { WishCosts } from "../api/client";
import { seconds } from "../units";
import { useChoices } from "./useFit";
import { useUnits } from "../app/useUnits";
import { Range } from "../ui/Range";

/** wishes in the order they are shown. */
export const wishes: { name: keyof WishCosts; says: string; imperial?: string }[] = [
  { name: "together", says: "a family in one case more" },
  { name: "dust", says: "dust gets at what should keep clean" },
  { name: "power", says: "a charger where no outlet is near" },
  { name: "show", says: "liked things hidden behind doors" },
  { name: "order", says: "one of a series away from the next" },
  { name: "moving", says: "a thing changes its home" },
  { name: "reserve", says: "a tenth of a place's growth room" },
  { name: "wall", says: "a m² of wall is needed", imperial: "11 sq ft of wall are needed" },
];

/** The slider's steps are prices, from nothing to five minutes a week. */
const steps = [0, 0.05, 0.1, 0.3, 1, 3, 10, 30, 100, 300];

/** price in words: under a second it is not rounded away. */
export const priced = (s: number) => (s > 0 && s < 10 ? `${s} s` : seconds(s));

/** Wishes are what is liked but is no rule: how many seconds a week it may cost to have it. */
export function Wishes({ prices, onPrice }: { prices: WishCosts; onPrice: (p: WishCosts) => void }) {
  const units = useUnits();
  const usual = useChoices()?.usual;
  if (!usual) return null;
  return (
    <div role="group" aria-label="Wishes and what they may cost">
      {wishes.map((w) => {
        const now = prices[w.name] ?? usual[w.name] ?? 0;
        const says = (units === "imperial" && w.imperial) || w.says;
        const at = steps.findIndex((s) => s >= now);
        return (
          <div key={w.name} className="py-0.75">
            <div className="flex justify-between gap-2 text-small">
              <span className="min-w-0">{says}</span>
              <span className="shrink-0 font-semibold">{now === 0 ? "as you like" : priced(now)}</span>
            </div>
            <div className="flex">
              <Range
                label={says}
                min={0}
                max={steps.length - 1}
                step={1}
                value={at < 0 ? steps.length - 1 : at}
                says={`${priced(now)} a week`}
                onChange={(n) => onPrice({ ...prices, [w.name]: steps[n] })}
              />
            </div>
          </div>
        );
      })}
    </div>
  );
}
