import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { Refused, type Item } from "../api/client";
import { Button } from "../ui/Button";
import { size, uses, weight, type Units } from "../units";
import { edited } from "./Row";
import { useSet, type Column, type Line } from "./useList";
import { TypedIn } from "../ui/TypedIn";
import { Portrait } from "./Portrait";

interface Props {
  lines: Line[];
  columns: Column[];
  revision: number;
  units: Units;
  onFold: (group: string) => void;
  /** a thing that was just added, or asked for, is brought into sight */
  fresh?: string;
}

/** Cards are the list where there is no room for columns: a card a thing, opened to change it. */
export function Cards({ lines, columns, revision, units, onFold, fresh }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [open, setOpen] = useState<string>();
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 68,
    overscan: 6,
    useFlushSync: false,
  });
  useEffect(() => {
    const i = fresh ? lines.findIndex((x) => x.item?.id === fresh) : -1;
    if (i >= 0) rows.scrollToIndex(i, { align: "center" });
    // The list scrolls once for what was added, not whenever it is sorted anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fresh]);
  return (
    <div
      ref={scroller}
      role="region"
      aria-label="Belongings"
      tabIndex={0}
      className="min-h-0 flex-1 overflow-y-auto border-y border-line"
      data-cards="yes"
    >
      <ul className="relative m-0 list-none p-0" aria-label="Everything you own" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((v) => {
          const l = lines[v.index];
          if (!l) return null;
          return (
            <li
              key={v.key}
              ref={rows.measureElement}
              data-index={v.index}
              className="absolute inset-x-0 top-0 border-b border-line/60"
              style={{ transform: `translateY(${v.start}px)` }}
            >
              {l.item ? (
                <Card
                  item={l.item}
                  columns={columns}
                  revision={revision}
                  units={units}
                  open={open === l.item.id}
                  onOpen={(on) => setOpen(on ? l.item.id : undefined)}
                />
              ) : (
                <button
                  type="button"
                  className="flex min-h-11 w-full items-center justify-between px-2 font-bold"
                  onClick={() => onFold(l.group)}
                >
                  {l.group} <span className="text-small font-normal text-quiet">{l.things} things</span>
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function Card({
  item,
  columns,
  revision,
  units,
  open,
  onOpen,
}: {
  item: Item;
  columns: Column[];
  revision: number;
  units: Units;
  open: boolean;
  onOpen: (on: boolean) => void;
}) {
  const navigate = useNavigate();
  return (
    <div data-card={item.id}>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => onOpen(!open)}
        className="flex min-h-16 w-full items-center gap-3 px-2 py-1.5 text-left"
      >
        <span className="flex w-11 shrink-0 justify-center">
          <Portrait item={item} size={40} least={4} />
        </span>
        <span className="min-w-0 flex-1">
          <b className="block truncate text-lead">
            {item.count > 1 && `${item.count} × `}
            {item.name}
          </b>
          <span className="block truncate text-small text-quiet">
            {size([item.w, item.h, item.d], units)}
            {item.kg > 0 && `, ${weight(item.kg, units)}`}, {uses(item.uses)}
          </span>
        </span>
        <b className={`shrink-0 ${item.place ? "text-blue" : "text-red"}`}>
          {item.place || (item.lies ? `${item.lies}, loose` : item.status === "wished" ? "wished" : "no home")}
        </b>
      </button>
      {open && (
        <div className="px-2 pb-3">
          {columns
            .filter((c) => c.field)
            .map((c) => (
              <Cell key={`${c.id} ${edited(item, c, units)}`} item={item} column={c} revision={revision} units={units} />
            ))}
          <Button
            kind="main"
            className="mt-2 min-h-11"
            onClick={() => void navigate({ pathname: "/find", search: `on=${encodeURIComponent(`item:${item.id}`)}` })}
          >
            Show where it lives
          </Button>
        </div>
      )}
    </div>
  );
}

/** Cell is one field of a thing with its name beside it. What is refused stays in it with the reason. */
function Cell({ item, column: c, revision, units }: { item: Item; column: Column; revision: number; units: Units }) {
  const set = useSet();
  const assumed = c.assumed !== undefined && item.assumed.includes(c.assumed);
  return (
    <label className="flex items-center gap-3 border-b border-line/40">
      <span className="w-22 shrink-0 text-small text-quiet">
        {c.title}
        {assumed && <i> assumed</i>}
      </span>
      <TypedIn
        value={edited(item, c, units)}
        why={set.error instanceof Refused ? set.error.message : undefined}
        onDone={(text) => c.field && set.mutate({ base: revision, ids: [item.id], field: c.field, text })}
        onTyped={set.reset}
        className=""
      />
    </label>
  );
}
