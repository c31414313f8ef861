import { useState } from "react";
import type { Round } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { fixed } from "../units";
import { ItemPick, named } from "./ItemPick";
import { useSetStock, useUseStock, type DueToday } from "./useUpkeep";

const field = "w-20 border-b border-line bg-transparent px-1";
const num = (text: string) => Number(text.replace(",", "."));

/** Stocks are the consumables: what there is, what is bought where, what is past its date. */
export function Stocks({ d, round, revision }: { d: DueToday; round: Round; revision: number }) {
  const use = useUseStock();
  const set = useSetStock();
  const [name, setName] = useState("");
  const [f, setF] = useState({ has: "", unit: "", low: "", par: "", at: "", size: "", opened: "", keeps: "", litres: "" });
  const it = named(round, name);
  const buy = d.stocks.filter((b) => b.buy > 0);
  const shops = [...new Set(buy.map((b) => b.at))];
  return (
    <Part title="Consumables">
      {shops.length > 0 && (
        <div data-testid="shopping" className="mb-1">
          {shops.map((s) => (
            <p key={s} className="m-0">
              <b>{s === "" ? "To buy" : `To buy, ${s}`}:</b>{" "}
              {buy
                .filter((b) => b.at === s)
                .map((b) => `${b.name}${b.size ? `, ${b.size}` : ""} (${fixed(b.buy, 0)}${b.unit ? ` ${b.unit}` : ""})`)
                .join("; ")}
            </p>
          ))}
        </div>
      )}
      <ul className="m-0 list-none p-0" data-testid="stocks">
        {d.stocks.map((b) => (
          <li key={b.item} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
            <span className={b.buy > 0 ? "text-red" : ""}>
              {b.name}
              {b.size && <span className="text-small text-quiet"> {b.size}</span>}
            </span>
            <span className="ml-auto text-small text-quiet tabular-nums">
              {fixed(b.has, 0)}
              {b.unit && ` ${b.unit}`}, low at {fixed(b.low, 0)}
              {b.rate > 0 && `, ${fixed(b.rate, 1)} a week`}
            </span>
            <Button disabled={use.isPending} onClick={() => use.mutate({ base: revision, id: b.item, n: 1 })}>
              One used
            </Button>
            <Button
              disabled={use.isPending}
              onClick={() => use.mutate({ base: revision, id: b.item, n: -Math.max(1, Math.round(b.buy || b.par || 1)) })}
            >
              {fixed(Math.max(1, Math.round(b.buy || b.par || 1)), 0)} came
            </Button>
          </li>
        ))}
      </ul>
      {d.flames > 0 && (
        <p className="m-0 mt-1 text-small text-quiet">
          In all some {fixed(d.flammable, 1)} litres burn, in {d.flames} containers: closed, cool, away from what glows, as little as will
          do; local rules say how much may be kept.
        </p>
      )}
      <details>
        <summary className="cursor-pointer font-semibold text-blue">Watch a consumable</summary>
        <form
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (!it || !(num(f.has) >= 0)) return;
            set.mutate(
              {
                base: revision,
                id: it.id,
                stock: {
                  has: num(f.has),
                  ...(f.unit ? { unit: f.unit } : {}),
                  ...(num(f.low) > 0 ? { low: num(f.low) } : {}),
                  ...(num(f.par) > 0 ? { par: num(f.par) } : {}),
                  ...(f.at ? { at: f.at } : {}),
                  ...(f.size ? { size: f.size } : {}),
                  ...(f.opened ? { opened: f.opened } : {}),
                  ...(num(f.keeps) > 0 ? { keeps: num(f.keeps) } : {}),
                  ...(num(f.litres) > 0 ? { litres: num(f.litres) } : {}),
                },
              },
              {
                onSuccess: () => (
                  setName(""),
                  setF({ has: "", unit: "", low: "", par: "", at: "", size: "", opened: "", keeps: "", litres: "" })
                ),
              },
            );
          }}
        >
          <ItemPick round={round} label="Which consumable" value={name} onChange={setName} />
          {(
            [
              ["has", "there are"],
              ["unit", "unit"],
              ["low", "low at"],
              ["par", "wanted"],
              ["at", "bought at"],
              ["size", "grit or size"],
              ["opened", "opened on"],
              ["keeps", "keeps months"],
              ["litres", "litres in each"],
            ] as const
          ).map(([k, says]) => (
            <label key={k} className="flex items-baseline gap-1">
              {says}
              <input value={f[k]} onChange={(e) => setF({ ...f, [k]: e.target.value })} className={field} />
            </label>
          ))}
          <Button kind="main" type="submit" disabled={!it || f.has.trim() === "" || set.isPending}>
            Watch it
          </Button>
          {it && d.stocks.some((b) => b.item === it.id) && (
            <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: it.id })}>
              Watch it no more
            </Button>
          )}
        </form>
      </details>
    </Part>
  );
}
