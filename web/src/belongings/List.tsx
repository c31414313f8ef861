import clsx from "clsx";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { toast } from "sonner";
import type { Item } from "../api/client";
import { usePhotos } from "../photo/Photos";
import { seconds, weight, type Units } from "../units";
import { edited, Row, rowHeight, type Acts, type Editing } from "./Row";
import { useSet, type Column, type Line } from "./useList";
import { useDone } from "../app/shop";
import { reason } from "../reason";

interface ListProps {
  lines: Line[];
  columns: Column[];
  revision: number;
  units: Units;
  sort: { by: string; down: boolean };
  onSort: (by: string) => void;
  chosen: Set<string>;
  onChoose: (ids: Set<string>) => void;
  onFold: (group: string) => void;
  folded: Set<string>;
  /** rows of a spreadsheet were pasted */
  onPaste: (text: string) => void;
  /** a thing that was just added, or asked for, is brought into sight */
  fresh?: string;
}

/** kept is how many rows are kept on the page at most: more than ever are in sight. */
const kept = 120;

/** List is the grid of everything owned. Arrows go from cell to cell, typing changes one, Space chooses a row. */
export function List({ lines, columns, revision, units, sort, onSort, chosen, onChoose, onFold, folded, onPaste, fresh }: ListProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    useFlushSync: false,
  });
  const [at, setAt] = useState({ row: 0, col: 0 });
  const [editing, show] = useState<Editing>();
  // What is open right now: a cell that closes loses the focus once more and must not be sent twice.
  const open = useRef<Editing>(undefined);
  const setEditing = (e: Editing | undefined) => {
    open.current = e;
    show(e);
  };
  // What was typed and is not confirmed yet, by thing and column.
  const [pending, setPending] = useState<ReadonlyMap<string, Record<string, string>>>(new Map());
  const queue = useRef<Promise<void>>(Promise.resolve());
  const newest = useRef(revision);
  useEffect(() => {
    newest.current = Math.max(newest.current, revision);
  }, [revision]);
  const anchor = useRef(0);
  const set = useSet();
  const done = useDone();
  const { add } = usePhotos();
  const total = columns.reduce((sum, c) => sum + c.width, 34);
  const row = Math.min(at.row, lines.length - 1);
  const here = lines[row]?.item;

  // Heads of groups are not gone to: the next line with a thing in that direction is.
  const go = (to: number, col: number) => {
    const step = to < row ? -1 : 1;
    let next = Math.max(0, Math.min(lines.length - 1, to));
    while (lines[next] && !lines[next]?.item && lines[next + step]) next += step;
    while (lines[next] && !lines[next]?.item && lines[next + 1]) next++;
    setAt({ row: next, col: Math.max(0, Math.min(columns.length - 1, col)) });
    rows.scrollToIndex(next);
    return next;
  };
  useEffect(() => {
    const i = fresh ? lines.findIndex((x) => x.item?.id === fresh) : -1;
    if (i < 0) return;
    rows.scrollToIndex(i, { align: "center" });
    setAt((a) => ({ ...a, row: i }));
    // The list scrolls once for what was added, not whenever it is sorted anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fresh]);

  const choose = (line: number, range: boolean) => {
    const next = new Set(chosen);
    if (range) {
      const [a, b] = [Math.min(anchor.current, line), Math.max(anchor.current, line)];
      for (const l of lines.slice(a, b + 1)) if (l.item) next.add(l.item.id);
    } else {
      const id = lines[line]?.item?.id;
      if (!id) return;
      if (next.has(id)) next.delete(id);
      else next.add(id);
      anchor.current = line;
    }
    onChoose(next);
  };
  const edit = (line: number, col: number, text?: string) => {
    const item = lines[line]?.item;
    const c = columns[col];
    if (item && c?.field) setEditing({ id: item.id, col, text: text ?? edited(item, c, units) });
  };
  const finish = (down: boolean) => {
    const editing = open.current;
    if (!editing) return;
    open.current = undefined;
    const c = columns[editing.col];
    const item = lines.find((l) => l.item?.id === editing.id)?.item;
    if (!c?.field || !item) return setEditing(undefined);
    setEditing(undefined);
    if (editing.text !== edited(item, c, units) || (c.assumed && item.assumed.includes(c.assumed))) send(editing, c, item, at);
    if (down) go(row + 1, at.col);
    scroller.current?.focus();
  };
  /** send shows what was typed at once, and opens the cell again when it is refused. One edit is made on the revision of the one before. */
  const send = (editing: Editing, c: Column, item: Item, cell: { row: number; col: number }) => {
    const put = (text: string | undefined) =>
      setPending((all) => {
        const next = new Map(all);
        const now = Object.fromEntries(Object.entries(next.get(item.id) ?? {}).filter(([k]) => k !== c.id));
        if (text !== undefined) now[c.id] = text;
        if (Object.keys(now).length > 0) next.set(item.id, now);
        else next.delete(item.id);
        return next;
      });
    put(editing.text);
    queue.current = queue.current.then(async () => {
      try {
        const made = await set.mutateAsync({ base: newest.current, ids: [editing.id], field: c.field ?? "", text: editing.text });
        newest.current = Math.max(newest.current, made.id);
      } catch (e) {
        const why = reason(e);
        const again = () => {
          setAt(cell);
          setEditing({ ...editing, why });
        };
        // What was typed is not lost, nor what is typed meanwhile.
        if (open.current)
          toast.error(`${c.title} of ${item.name}, “${editing.text}”: ${why}`, {
            duration: 30_000,
            action: { label: "Edit", onClick: again },
          });
        else again();
      }
      put(undefined);
    });
  };
  /** fill puts a text into the column in focus of all that is chosen, or of the row in focus. */
  const fill = (text: string, from?: Item) => {
    const c = columns[at.col];
    const ids = chosen.size > 0 ? [...chosen] : here ? [here.id] : [];
    if (!c?.field || ids.length === 0) return;
    set.mutate(
      { base: revision, ids, field: c.field, text },
      {
        onSuccess: (r) =>
          done(`${c.title} of ${ids.length} ${ids.length === 1 ? "thing" : "things"}${from ? ` as of ${from.name}` : ""}.`, r),
        onError: (e) => toast.error(e.message),
      },
    );
  };
  const fillDown = () => {
    const c = columns[at.col];
    // From the first that is chosen, or from the line above.
    const from =
      chosen.size > 0 ? lines.find((l) => l.item && chosen.has(l.item.id))?.item : lines.slice(0, row).findLast((l) => l.item)?.item;
    if (from && c?.field) fill(edited(from, c, units), from);
  };
  const onKey = (e: React.KeyboardEvent) => {
    if (editing) return;
    if ((e.ctrlKey || e.metaKey) && !e.altKey) {
      if (e.key === "d") {
        e.preventDefault();
        fillDown();
      } else if (e.key === "a") {
        e.preventDefault();
        onChoose(new Set(lines.flatMap((l) => (l.item ? [l.item.id] : []))));
      }
      return;
    }
    if (e.altKey) return;
    const step = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [15, 0],
      PageUp: [-15, 0],
      Home: [-1e6, 0],
      End: [1e6, 0],
    }[e.key];
    if (step) {
      e.preventDefault();
      const to = go(row + (step[0] ?? 0), at.col + (step[1] ?? 0));
      if (e.shiftKey && step[0]) choose(to, true);
      return;
    }
    if (e.key === " ") {
      e.preventDefault();
      choose(row, e.shiftKey);
    } else if (e.key === "Enter" || e.key === "F2") {
      e.preventDefault();
      edit(row, at.col);
    } else if (e.key.length === 1 && columns[at.col]?.field && !"?/[]".includes(e.key)) {
      e.stopPropagation();
      // The cell opens at once, so that the key itself is typed into it.
      flushSync(() => edit(row, at.col, ""));
    }
  };
  const pasted = (e: React.ClipboardEvent) => {
    if (editing) return;
    const picture = [...e.clipboardData.files].find((f) => f.type.startsWith("image/"));
    const text = e.clipboardData.getData("text/plain").replace(/\r/g, "").replace(/\n$/, "");
    e.preventDefault();
    if (picture && here) add.mutate({ item: here.id, base: revision, file: picture });
    else if (/[\t\n]/.test(text)) onPaste(text);
    else if (text !== "") fill(text);
  };
  const copied = (e: React.ClipboardEvent) => {
    if (editing || !here) return;
    e.preventDefault();
    const c = columns[at.col];
    const list = lines.flatMap((l) => (l.item && chosen.has(l.item.id) && l.nth === 0 ? [l.item] : []));
    const text =
      list.length > 0
        ? [columns.map((c) => c.title), ...list.map((i) => columns.map((c) => edited(i, c, units)))].map((r) => r.join("\t")).join("\n")
        : c
          ? edited(here, c, units)
          : "";
    e.clipboardData.setData("text/plain", text);
    if (list.length > 0) toast(`${list.length} ${list.length === 1 ? "row" : "rows"} copied`);
  };

  // The acts stay the same object, so that rows are drawn anew only when something of theirs changed.
  const latest = useRef<Acts>(undefined as unknown as Acts);
  useEffect(() => {
    latest.current = {
      press: (line, col, e) => {
        if (e.shiftKey || e.ctrlKey || e.metaKey) choose(line, e.shiftKey);
        setAt({ row: line, col });
      },
      open: (line, col) => edit(line, col),
      choose,
      typed: (text) => open.current && setEditing({ ...open.current, text, why: undefined }),
      finish: (down) => finish(down),
      leave: () => {
        setEditing(undefined);
        scroller.current?.focus();
      },
    };
  });
  const acts = useMemo<Acts>(
    () => ({
      press: (...a) => latest.current.press(...a),
      open: (...a) => latest.current.open(...a),
      choose: (...a) => latest.current.choose(...a),
      typed: (...a) => latest.current.typed(...a),
      finish: (...a) => latest.current.finish(...a),
      leave: () => latest.current.leave(),
    }),
    [],
  );
  // Only what is drawn can be pointed at.
  const line = lines[row];
  const drawn = line?.item && rows.getVirtualItems().some((v) => v.index === row) ? line : undefined;

  return (
    <>
      <span id="assumed" hidden>
        assumed
      </span>
      <div
        ref={scroller}
        role="grid"
        aria-label="Everything you own"
        aria-rowcount={lines.length + 1}
        aria-colcount={columns.length + 1}
        aria-activedescendant={drawn ? `cell-${drawn.item.id}-${at.col}${drawn.nth > 0 ? `-${drawn.nth}` : ""}` : undefined}
        tabIndex={0}
        onKeyDown={onKey}
        onPaste={pasted}
        onCopy={copied}
        className="round-scroll min-h-0 min-w-0 flex-1 overflow-auto border border-line bg-sheet"
        data-grid="yes"
      >
        <div
          role="row"
          aria-rowindex={1}
          className="sticky top-0 z-10 flex border-b border-ink bg-paper text-small"
          style={{ width: total }}
        >
          <span className="w-8.5 shrink-0" role="columnheader" aria-label="chosen" />
          {columns.map((c) => (
            <button
              key={c.id}
              role="columnheader"
              aria-sort={sort.by === c.id ? (sort.down ? "descending" : "ascending") : "none"}
              tabIndex={-1}
              onClick={() => onSort(c.id)}
              style={{ width: c.width }}
              className={clsx(
                "shrink-0 px-1.5 py-1 hover:text-blue",
                c.number ? "text-right" : "text-left",
                sort.by === c.id && "font-bold",
              )}
            >
              {c.title}
              {sort.by === c.id && (sort.down ? " ↓" : " ↑")}
            </button>
          ))}
        </div>
        <div style={{ height: rows.getTotalSize(), width: total }} className="relative">
          {rows.getVirtualItems().map((v) => {
            const l = lines[v.index];
            if (!l) return null;
            if (!l.item)
              return (
                <Head
                  key={`head ${v.index % kept}`}
                  line={l}
                  index={v.index}
                  top={v.start}
                  width={total}
                  units={units}
                  folded={folded.has(l.group)}
                  onFold={onFold}
                />
              );
            return (
              <Row
                // Rows that leave at one end come in at the other: the page keeps their elements.
                key={v.index % kept}
                item={l.item}
                nth={l.nth}
                line={v.index}
                columns={columns}
                top={v.start}
                width={total}
                units={units}
                chosen={chosen.has(l.item.id)}
                fresh={fresh === l.item.id}
                active={v.index === row ? at.col : -1}
                editing={editing?.id === l.item.id && v.index === row ? editing : undefined}
                pending={pending.get(l.item.id)}
                acts={acts}
              />
            );
          })}
        </div>
      </div>
    </>
  );
}

/** Head of a group; it folds. */
function Head({
  line,
  index,
  top,
  width,
  units,
  folded,
  onFold,
}: {
  line: Extract<Line, { group: string }>;
  index: number;
  top: number;
  width: number;
  units: Units;
  folded: boolean;
  onFold: (group: string) => void;
}) {
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className="absolute top-0 left-0 flex items-stretch border-b border-ink/50 bg-paper"
      style={{ transform: `translateY(${top}px)`, height: rowHeight, width }}
    >
      <div role="gridcell" aria-colindex={1} className="flex items-center">
        <button
          tabIndex={-1}
          aria-expanded={!folded}
          onClick={() => onFold(line.group)}
          className="flex h-full items-center gap-1.5 px-2 hover:text-blue"
        >
          {folded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
          <b>{line.group}</b>
          <span className="text-small text-quiet">
            {line.things} {line.things === 1 ? "thing" : "things"}, {line.pieces} {line.pieces === 1 ? "piece" : "pieces"},{" "}
            {weight(line.kg, units)}, {seconds(line.seconds)} a week
          </span>
        </button>
      </div>
    </div>
  );
}
