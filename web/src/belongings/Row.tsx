import clsx from "clsx";
import { memo } from "react";
import type { Item } from "../api/client";
import { Thumb } from "../photo/Thumb";
import { length, uses, weight, type Units } from "../units";
import { Weigh } from "./Weigh";
import type { Column } from "./useList";
import { Portrait } from "./Portrait";

/** said is how a value is written in the list. */
export function said(item: Item, c: Column, units: Units): string {
  switch (c.id) {
    case "w":
    case "h":
    case "d":
      return length(item[c.id], units);
    case "kg":
      return item.kg > 0 ? weight(item.kg, units) : "";
    case "uses":
      return uses(item.uses);
    case "count":
      return String(item.count);
    case "used_at":
    case "hold":
    case "flags":
      return item[c.id].join(", ");
    case "keep":
    case "locked":
      return item[c.id] ? "yes" : "";
    case "place":
      return item.place || (item.lies ? `${item.lies}, loose` : "");
    default:
      return String((item[c.id as keyof Item] as string | number | undefined) ?? "");
  }
}

/** edited is what stands in a cell while it is changed. */
export function edited(item: Item, c: Column, units: Units): string {
  if (c.id === "uses") return String(Math.round(item.uses * 1000) / 1000);
  if (c.id === "keep" || c.id === "locked") return item[c.id] ? "yes" : "no";
  return said(item, c, units).replaceAll("\u2009", "").replaceAll("\u2044", "/");
}

/** Editing is the cell that is open, with what is typed in it and why it was refused. */
export interface Editing {
  id: string;
  col: number;
  text: string;
  why?: string;
}

/** Acts of a row; they stay the same from drawing to drawing, so that only rows that changed are drawn anew. */
export interface Acts {
  press: (line: number, col: number, e: React.MouseEvent) => void;
  open: (line: number, col: number) => void;
  choose: (line: number, range: boolean) => void;
  typed: (text: string) => void;
  finish: (down: boolean) => void;
  leave: () => void;
}

interface RowProps {
  item: Item;
  /** how often the thing was in the list above this line */
  nth: number;
  line: number;
  columns: Column[];
  top: number;
  width: number;
  units: Units;
  chosen: boolean;
  fresh: boolean;
  /** column of the cell in focus, -1 when none of this row is */
  active: number;
  editing?: Editing;
  /** what was typed and is not confirmed yet, by column */
  pending?: Record<string, string>;
  acts: Acts;
}

export const rowHeight = 30;

/** Row is one thing of the list. */
export const Row = memo(function Row({
  item,
  nth,
  line,
  columns,
  top,
  width,
  units,
  chosen,
  fresh,
  active,
  editing,
  pending,
  acts,
}: RowProps) {
  return (
    <div
      role="row"
      aria-rowindex={line + 2}
      aria-selected={chosen}
      data-row={item.id}
      className={clsx(
        "absolute top-0 left-0 flex items-stretch border-b border-line/60",
        chosen && "bg-blue-wash",
        editing && "z-[5]",
        fresh && !chosen && "bg-free-1",
        item.status === "wished" && "text-quiet",
      )}
      style={{ transform: `translateY(${top}px)`, height: rowHeight, width }}
    >
      <span role="gridcell" className="flex w-8.5 shrink-0 items-center justify-center">
        <button
          tabIndex={-1}
          aria-label={`Choose ${item.name}`}
          aria-pressed={chosen}
          onClick={(e) => acts.choose(line, e.shiftKey)}
          className="flex h-6.5 w-7.5 items-center justify-center"
        >
          {chosen ? (
            <b aria-hidden>✓</b>
          ) : item.photos[0] ? (
            <Thumb name={item.photos[0]} of={item.name} className="h-6.5 w-7.5" />
          ) : (
            <Portrait item={item} size={22} least={3} />
          )}
        </button>
      </span>
      {columns.map((c, k) => {
        const now = editing?.col === k ? editing : undefined;
        const assumed = c.assumed !== undefined && item.assumed.includes(c.assumed);
        return (
          <div
            key={c.id}
            id={`cell-${item.id}-${k}${nth > 0 ? `-${nth}` : ""}`}
            role="gridcell"
            aria-colindex={k + 2}
            aria-describedby={assumed ? "assumed" : undefined}
            style={{ width: c.width }}
            className={clsx(
              "relative flex shrink-0 items-center px-1.5",
              c.number && "justify-end",
              assumed && "text-quiet italic",
              active === k && !now && "outline-2 -outline-offset-2 outline-blue",
              c.id === "place" && item.place === "" && item.status !== "wished" && "text-red",
            )}
            onMouseDown={(e) => !now && acts.press(line, k, e)}
            onDoubleClick={() => acts.open(line, k)}
          >
            {now ? (
              <>
                <input
                  autoFocus
                  value={now.text}
                  aria-label={`${c.title} of ${item.name}`}
                  aria-invalid={now.why ? true : undefined}
                  onChange={(e) => acts.typed(e.target.value)}
                  onKeyDown={(e) => {
                    e.stopPropagation();
                    if (e.key === "Enter") acts.finish(true);
                    if (e.key === "Escape") acts.leave();
                  }}
                  onBlur={() => now.why === undefined && acts.finish(false)}
                  className={clsx(
                    "absolute inset-0 border-2 bg-paper px-1 text-ink not-italic",
                    now.why ? "border-red" : "border-blue",
                    c.number && "text-right",
                  )}
                />
                {now.why ? (
                  <p
                    role="alert"
                    className="absolute top-full left-0 z-20 w-65 border border-red bg-paper px-2 py-1 text-fine text-red not-italic"
                  >
                    {now.why}
                  </p>
                ) : (
                  c.id === "kg" && <Weigh id={item.id} onRead={acts.typed} />
                )}
              </>
            ) : (
              <span className={clsx("truncate", c.id === "name" && "font-semibold")}>
                {pending?.[c.id] ??
                  (c.id === "place" && item.place === "" && item.lies === ""
                    ? item.status === "wished"
                      ? ""
                      : "no home"
                    : said(item, c, units))}
              </span>
            )}
          </div>
        );
      })}
    </div>
  );
});
