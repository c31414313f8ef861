import clsx from "clsx";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { Refused, type Item } from "../api/client";
import { Silhouette } from "../stage/Silhouette";
import { length, uses, weight, type Units } from "../units";
import { columns, useSet, type Column } from "./useList";

interface ListProps {
  items: Item[];
  revision: number;
  units: Units;
  sort: { by: string; down: boolean };
  onSort: (by: string) => void;
  chosen: Set<string>;
  onChoose: (ids: Set<string>) => void;
  /** a thing that was just added is brought into sight */
  fresh?: string;
}

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
    default:
      return String(item[c.id as keyof Item] ?? "");
  }
}

/** edited is what stands in a cell while it is changed. */
function edited(item: Item, c: Column, units: Units): string {
  if (c.id === "uses") return String(Math.round(item.uses * 1000) / 1000);
  return said(item, c, units).replaceAll("\u2009", "");
}

const rowHeight = 30;

/** Editing is the cell that is open, with what is typed in it and why it was refused. */
interface Editing {
  id: string;
  col: number;
  text: string;
  why?: string;
}

/** List is the grid of everything owned. Arrows go from cell to cell, typing changes one, Space chooses a row. */
export function List({ items, revision, units, sort, onSort, chosen, onChoose, fresh }: ListProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: items.length, getScrollElement: () => scroller.current, estimateSize: () => rowHeight, overscan: 12 });
  const [at, setAt] = useState({ row: 0, col: 0 });
  const [editing, show] = useState<Editing>();
  // What is open right now: a cell that closes loses the focus once more and must not be sent twice.
  const open = useRef<Editing>(undefined);
  const setEditing = (e: Editing | undefined) => {
    open.current = e;
    show(e);
  };
  const anchor = useRef(0);
  const set = useSet();
  const total = columns.reduce((sum, c) => sum + c.width, 34);

  const go = (row: number, col: number) => {
    const to = { row: Math.max(0, Math.min(items.length - 1, row)), col: Math.max(0, Math.min(columns.length - 1, col)) };
    setAt(to);
    rows.scrollToIndex(to.row);
  };
  useEffect(() => {
    const i = fresh ? items.findIndex((x) => x.id === fresh) : -1;
    if (i >= 0) rows.scrollToIndex(i, { align: "center" });
    // The list scrolls once for what was added, not whenever it is sorted anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fresh]);

  const choose = (row: number, range: boolean) => {
    const next = new Set(chosen);
    if (range) {
      const [a, b] = [Math.min(anchor.current, row), Math.max(anchor.current, row)];
      for (const i of items.slice(a, b + 1)) next.add(i.id);
    } else {
      const id = items[row]?.id;
      if (!id) return;
      if (next.has(id)) next.delete(id);
      else next.add(id);
      anchor.current = row;
    }
    onChoose(next);
  };
  const edit = (row: number, col: number, text?: string) => {
    const item = items[row];
    const c = columns[col];
    if (item && c?.field) setEditing({ id: item.id, col, text: text ?? edited(item, c, units) });
  };
  const finish = async (down: boolean) => {
    const editing = open.current;
    if (!editing) return;
    open.current = undefined;
    const c = columns[editing.col];
    const item = items.find((i) => i.id === editing.id);
    if (!c?.field || !item) return setEditing(undefined);
    if (editing.text === edited(item, c, units) && !(c.assumed && item.assumed.includes(c.assumed))) {
      setEditing(undefined);
    } else {
      try {
        await set.mutateAsync({ base: revision, ids: [editing.id], field: c.field, text: editing.text });
        setEditing(undefined);
      } catch (e) {
        // What was typed stays in the cell with the reason.
        setEditing({ ...editing, why: e instanceof Refused || e instanceof Error ? e.message : String(e) });
        return;
      }
    }
    if (down) go(at.row + 1, at.col);
    scroller.current?.focus();
  };
  const onKey = (e: React.KeyboardEvent) => {
    if (editing || e.ctrlKey || e.metaKey || e.altKey) return;
    const step = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1], PageDown: [15, 0], PageUp: [-15, 0], Home: [-1e6, 0], End: [1e6, 0] }[e.key];
    if (step) {
      e.preventDefault();
      if (e.shiftKey && step[0]) choose(Math.max(0, Math.min(items.length - 1, at.row + step[0])), true);
      return go(at.row + (step[0] ?? 0), at.col + (step[1] ?? 0));
    }
    if (e.key === " ") {
      e.preventDefault();
      choose(at.row, e.shiftKey);
    } else if (e.key === "Enter" || e.key === "F2") {
      e.preventDefault();
      edit(at.row, at.col);
    } else if (e.key.length === 1 && columns[at.col]?.field && !"?/[]".includes(e.key)) {
      e.stopPropagation();
      // The cell opens at once, so that the key itself is typed into it.
      flushSync(() => edit(at.row, at.col, ""));
    }
  };
  // Only what is drawn can be pointed at.
  const here = rows.getVirtualItems().some((v) => v.index === at.row) ? items[at.row] : undefined;

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Everything you own"
      aria-rowcount={items.length + 1}
      aria-colcount={columns.length}
      aria-activedescendant={here ? `cell-${here.id}-${at.col}` : undefined}
      tabIndex={0}
      onKeyDown={onKey}
      className="round-scroll min-h-0 flex-1 overflow-auto border border-line bg-sheet"
      data-grid="yes"
    >
      <div role="row" aria-rowindex={1} className="sticky top-0 z-10 flex border-b border-ink bg-paper text-[13px]" style={{ width: total }}>
        <span className="w-[34px] shrink-0" role="columnheader" aria-label="chosen" />
        {columns.map((c) => (
          <button key={c.id} role="columnheader" aria-sort={sort.by === c.id ? (sort.down ? "descending" : "ascending") : "none"} tabIndex={-1} onClick={() => onSort(c.id)} style={{ width: c.width }} className={clsx("shrink-0 px-1.5 py-1 hover:text-blue", c.number ? "text-right" : "text-left", sort.by === c.id && "font-bold")}>
            {c.title}
            {sort.by === c.id && (sort.down ? " ↓" : " ↑")}
          </button>
        ))}
      </div>
      <div style={{ height: rows.getTotalSize(), width: total }} className="relative">
        {rows.getVirtualItems().map((v) => {
          const item = items[v.index];
          if (!item) return null;
          const on = chosen.has(item.id);
          return (
            <div key={item.id} role="row" aria-rowindex={v.index + 2} aria-selected={on} data-row={item.id} className={clsx("absolute left-0 flex items-stretch border-b border-line/60", on ? "bg-blue-wash" : item.id === fresh && "bg-[var(--band-near)]")} style={{ top: v.start, height: rowHeight, width: total }}>
              <span role="gridcell" className="flex w-[34px] shrink-0 items-center justify-center" onMouseDown={(e) => choose(v.index, e.shiftKey)}>
                <Portrait item={item} />
              </span>
              {columns.map((c, k) => {
                const active = at.row === v.index && at.col === k;
                const now = editing?.id === item.id && editing.col === k ? editing : undefined;
                const assumed = c.assumed !== undefined && item.assumed.includes(c.assumed);
                return (
                  <div
                    key={c.id}
                    id={`cell-${item.id}-${k}`}
                    role="gridcell"
                    title={assumed ? "assumed, not measured" : undefined}
                    style={{ width: c.width }}
                    className={clsx("relative flex shrink-0 items-center px-1.5 text-[13.5px]", c.number && "justify-end", assumed && "text-quiet italic", active && !now && "outline-2 -outline-offset-2 outline-blue", c.id === "place" && item.place === "" && "text-red")}
                    onMouseDown={(e) => {
                      if (now) return;
                      if (e.shiftKey || e.ctrlKey || e.metaKey) choose(v.index, e.shiftKey);
                      setAt({ row: v.index, col: k });
                    }}
                    onDoubleClick={() => edit(v.index, k)}
                  >
                    {now ? (
                      <>
                        <input
                          autoFocus
                          value={now.text}
                          aria-label={`${c.title} of ${item.name}`}
                          aria-invalid={now.why ? true : undefined}
                          onChange={(e) => setEditing({ ...now, text: e.target.value, why: undefined })}
                          onKeyDown={(e) => {
                            e.stopPropagation();
                            if (e.key === "Enter") void finish(true);
                            if (e.key === "Escape") {
                              setEditing(undefined);
                              scroller.current?.focus();
                            }
                          }}
                          onBlur={() => now.why === undefined && void finish(false)}
                          className={clsx("absolute inset-0 border-2 bg-paper px-1 text-ink not-italic", now.why ? "border-red" : "border-blue", c.number && "text-right")}
                        />
                        {now.why && (
                          <p role="alert" className="absolute top-full left-0 z-20 w-[260px] border border-red bg-paper px-2 py-1 text-[12.5px] text-red not-italic">
                            {now.why}
                          </p>
                        )}
                      </>
                    ) : (
                      <span className={clsx("truncate", c.id === "name" && "font-semibold")}>{c.id === "place" && item.place === "" ? "no home" : said(item, c, units)}</span>
                    )}
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Portrait({ item }: { item: Item }) {
  const k = 22 / Math.max(item.w, item.h, 1);
  const [w, h] = [Math.max(3, item.w * k), Math.max(3, item.h * k)];
  return (
    <svg width={w} height={h} aria-hidden>
      <Silhouette kind={item.glyph} x={0} y={0} w={w} h={h} outline={item.out} />
    </svg>
  );
}
