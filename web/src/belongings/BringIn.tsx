import { at } from "../api/base";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { api, keys, Refused, unwrap, type Fault, type Imported, type Mapping, type Problem, type Sheet } from "../api/client";
import { told } from "../api/stream";
import { Pick } from "../ui/Pick";
import { Progress } from "../ui/Progress";
import { Tickbox } from "../ui/Tickbox";
import { reason } from "../reason";
import { Hint } from "../ui/Hint";
import { shade } from "../ui/windows";

interface Props {
  /** what is brought in: a file, or text copied from a spreadsheet */
  from: File | string;
  revision: number;
  onClose: () => void;
}

async function read(from: File | string, sheet: string): Promise<Sheet> {
  const query = new URLSearchParams({ name: typeof from === "string" ? "the pasted rows" : from.name });
  if (sheet) query.set("sheet", sheet);
  const answer = await fetch(at(`/api/v1/tables/read?${query}`), { method: "POST", body: from });
  if (!answer.ok) throw new Refused((await answer.json().catch(() => ({}))) as Problem);
  return (await answer.json()) as Sheet;
}

let tables = 0;

/** BringIn reads a table, shows what each column is taken for and what would become of each row, and brings it in. */
export function BringIn({ from, revision, onClose }: Props) {
  const [sheetName, setSheetName] = useState("");
  const [table, setTable] = useState<{ n: number; sheet: Sheet }>();
  const [mapping, setMapping] = useState<Mapping>();
  const [refused, setRefused] = useState("");
  const guess = table?.sheet.guess;
  const touched =
    guess && mapping && JSON.stringify(mapping) !== JSON.stringify({ first: guess.first, comma: guess.comma, columns: guess.columns });
  useEffect(() => {
    let gone = false;
    read(from, sheetName)
      .then((sheet) => {
        if (gone) return;
        setTable({ n: ++tables, sheet });
        setMapping({ first: sheet.guess.first, comma: sheet.guess.comma, columns: sheet.guess.columns });
      })
      .catch((e: Error) => !gone && setRefused(e.message));
    return () => {
      gone = true;
    };
  }, [from, sheetName]);
  return (
    <Dialog.Root open onOpenChange={(on) => !on && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className={shade} />
        <Dialog.Content
          aria-describedby={undefined}
          // A wrong click beside it must not throw the mapping away.
          onInteractOutside={(e) => e.preventDefault()}
          onEscapeKeyDown={(e) => touched && e.preventDefault()}
          className="fixed inset-x-[3vw] inset-y-[4vh] z-50 flex flex-col gap-3 border border-ink bg-sheet p-4 text-ink outline-none"
        >
          <div className="flex items-baseline gap-4">
            <Dialog.Title className="text-lg font-bold">Import {typeof from === "string" ? "pasted rows" : from.name}</Dialog.Title>
            {table && <span className="text-small text-quiet">read as {table.sheet.read}</span>}
            {table && table.sheet.sheets.length > 1 && (
              <Pick
                label="Sheet of the workbook"
                value={table.sheet.sheet}
                choices={table.sheet.sheets.map((s) => ({ value: s, name: s }))}
                onPick={setSheetName}
              />
            )}
          </div>
          {refused && (
            <>
              <p role="alert" className="text-red">
                {refused}
              </p>
              <div>
                <Dialog.Close className="bg-blue px-3 py-1.5 font-bold text-sheet">Close</Dialog.Close>
              </div>
            </>
          )}
          {!refused && !table && <p className="text-quiet">Reading…</p>}
          {table && mapping && (
            <Mapped
              key={table.n}
              n={table.n}
              sheet={table.sheet}
              mapping={mapping}
              setMapping={setMapping}
              revision={revision}
              onClose={onClose}
            />
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const marks: Record<string, [string, string]> = {
  "+": ["new", "text-blue"],
  "~": ["changed", "text-blue"],
  "=": ["as it is", "text-quiet"],
  "!": ["error", "text-red"],
  " ": ["", ""],
};

function Mapped({
  n,
  sheet,
  mapping,
  setMapping,
  revision,
  onClose,
}: {
  n: number;
  sheet: Sheet;
  mapping: Mapping;
  setMapping: (m: Mapping) => void;
  revision: number;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [good, setGood] = useState(false);
  const [stations, setStations] = useState(false);
  const [only, setOnly] = useState(false);
  const [going, setGoing] = useState<{ share: number; stop: AbortController }>();
  const [failed, setFailed] = useState("");
  const preview = useQuery({
    queryKey: keys.preview(n, mapping, stations, revision),
    queryFn: async () => unwrap(await api.POST("/api/v1/tables/preview", { body: { rows: sheet.rows, mapping, stations } })),
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  const p = preview.isError ? undefined : preview.data;
  const faults = new Map<number, Fault[]>(p?.rows.filter((r) => r.faults.length > 0).map((r) => [r.number, r.faults]));
  const shown = sheet.rows.map((_, i) => i).filter((i) => !only || faults.has(i + 1));
  const comes = p ? p.new + p.changed : 0;
  const ready = p && comes > 0 && (p.faulty === 0 || good) && !preview.isFetching;

  const bring = async () => {
    const stop = new AbortController();
    setGoing({ share: 0, stop });
    setFailed("");
    try {
      for await (const { event, data } of told(
        at("/api/v1/tables/import/stream"),
        revision,
        { rows: sheet.rows, mapping, good, stations },
        stop.signal,
      )) {
        if (event === "progress") {
          const { done, total } = data as { done: number; total: number };
          setGoing({ share: done / Math.max(1, total), stop });
        } else if (event === "refused") {
          throw new Error((data as { detail: string }).detail);
        } else if (event === "done") {
          const d = data as Imported;
          await client.invalidateQueries({ queryKey: keys.round });
          toast(`${d.new} new, ${d.changed} changed, ${d.same} as they were${d.faulty ? `, ${d.faulty} left out` : ""}.`);
          for (const note of d.notes.slice(0, 3)) toast.error(note);
          if (d.notes.length > 3) toast.error(`${d.notes.length - 3} more found no home.`);
          onClose();
        }
      }
    } catch (e) {
      setFailed(stop.signal.aborted ? "Stopped: nothing was imported." : reason(e));
    } finally {
      setGoing(undefined);
    }
  };
  const use = (c: number, field: string) => {
    const col = sheet.columns.find((x) => x.field === field);
    setMapping({
      ...mapping,
      // A field is said by one column: the one chosen last.
      columns: mapping.columns.map((u, i) =>
        i === c
          ? { field, unit: (col?.units.includes(u.unit) ? u.unit : (col?.units[0] ?? "")) as typeof u.unit }
          : u.field === field && field !== ""
            ? { field: "", unit: "" }
            : u,
      ),
    });
  };

  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-1 text-body">
        <label className="flex items-center gap-2">
          the first thing is in row
          <input
            type="number"
            min={1}
            max={sheet.rows.length}
            value={mapping.first + 1}
            onChange={(e) => setMapping({ ...mapping, first: Math.max(0, Math.min(sheet.rows.length - 1, Number(e.target.value) - 1)) })}
            className="w-16 border-b border-line bg-transparent px-1 text-right"
          />
        </label>
        <span className="flex items-center gap-2">
          1,200 in it is
          <Pick
            label="What 1,200 means"
            value={mapping.comma ? "comma" : "point"}
            choices={[
              { value: "point", name: "1200" },
              { value: "comma", name: "1.2" },
            ]}
            onPick={(v) => setMapping({ ...mapping, comma: v === "comma" })}
          />
        </span>
        {faults.size > 0 && (
          <Tickbox on={only} onChange={setOnly}>
            only rows with errors
          </Tickbox>
        )}
      </div>
      <Cells
        sheet={sheet}
        mapping={mapping}
        use={use}
        setUnit={(c, unit) =>
          setMapping({ ...mapping, columns: mapping.columns.map((u, i) => (i === c ? { ...u, unit: unit as typeof u.unit } : u)) })
        }
        shown={shown}
        faults={faults}
        marks={p?.marks ?? ""}
      />
      <div className="flex min-h-19 items-start gap-6 text-body">
        <div className="min-w-0 flex-1" aria-live="polite" data-testid="preview">
          {preview.isError && (
            <p role="alert" className="text-red">
              {preview.error.message}
            </p>
          )}
          {p && (
            <p>
              <b>{p.new} new</b>, {p.changed} changed, {p.same} as they are{p.empty > 0 && `, ${p.empty} empty`}
              {p.left > 0 && `, ${p.left} left out as totals, headings or remarks: ${lefts(p.rows)}`}
              {p.faulty > 0 && <b className="text-red">, {p.faulty} with errors</b>}
            </p>
          )}
          {p && p.stations.length > 0 && (
            <Tickbox on={stations} onChange={setStations}>
              {p.stations.length === 1 ? "A station is" : `${p.stations.length} stations are`} named that the shop does not have:{" "}
              {p.stations.slice(0, 6).join(", ")}
              {p.stations.length > 6 && " …"}. Make {p.stations.length === 1 ? "it" : "them"}, to be put in place later.
            </Tickbox>
          )}
          {stations && p && p.stations.length === 0 && <p className="text-quiet">Stations that are missing will be made.</p>}
          {p && p.faulty > 0 && (
            <>
              <Tickbox on={good} onChange={setGood}>
                skip the {p.faulty} rows with errors
              </Tickbox>
              <ul
                className="round-scroll m-0 mt-1 max-h-21 list-none overflow-y-auto border border-line bg-paper px-2 py-1 text-small text-red"
                aria-label="Errors"
                tabIndex={0}
              >
                {[...faults.values()]
                  .flat()
                  .slice(0, 100)
                  .map((f) => (
                    <li key={`${f.row} ${f.column}`}>
                      row {f.row}, column {f.letter}: {f.why}
                    </li>
                  ))}
              </ul>
            </>
          )}
          {failed && (
            <p role="alert" className="text-red">
              {failed}
            </p>
          )}
        </div>
        {going ? (
          <div className="flex items-center gap-3">
            <Progress share={going.share} label="Importing" />
            <button className="font-semibold text-red hover:underline" onClick={() => going.stop.abort()}>
              Stop
            </button>
          </div>
        ) : (
          <div className="flex items-center gap-5">
            <Dialog.Close className="font-semibold text-blue hover:underline">Cancel</Dialog.Close>
            <button
              className="bg-blue px-4 py-1.5 font-bold text-sheet hover:brightness-110 disabled:opacity-50"
              disabled={!ready}
              onClick={() => void bring()}
            >
              {comes > 0 ? `Import ${comes} ${comes === 1 ? "thing" : "things"}` : "Nothing new to import"}
            </button>
          </div>
        )}
      </div>
    </>
  );
}

/** lefts names the rows that are left out. */
const lefts = (rows: { does: string; number: number; name: string }[]) =>
  rows
    .filter((r) => r.does === "left")
    .slice(0, 5)
    .map((r) => (r.name ? `${r.number} “${r.name}”` : r.number))
    .join(", ");

const line = 26;

/** Cells are the rows of the sheet under what their columns are taken for. */
function Cells({
  sheet,
  mapping,
  use,
  setUnit,
  shown,
  faults,
  marks: said,
}: {
  sheet: Sheet;
  mapping: Mapping;
  use: (c: number, field: string) => void;
  setUnit: (c: number, unit: string) => void;
  shown: number[];
  faults: Map<number, Fault[]>;
  marks: string;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: shown.length, getScrollElement: () => scroller.current, estimateSize: () => line, overscan: 8 });
  const widths = mapping.columns.map((_, c) => {
    let most = 8;
    for (const r of sheet.rows.slice(0, 60)) most = Math.max(most, Math.min(30, (r[c] ?? "").length));
    return Math.max(104, most * 7 + 14);
  });
  const total = widths.reduce((a, b) => a + b, 104);
  const choices = [{ value: "", name: "left out" }, ...sheet.columns.map((c) => ({ value: c.field, name: c.title }))];
  return (
    <div
      ref={scroller}
      role="table"
      aria-label="Rows of the table"
      aria-rowcount={sheet.rows.length}
      tabIndex={0}
      className="round-scroll min-h-0 flex-1 overflow-auto border border-line bg-paper text-small"
    >
      <div role="row" className="sticky top-0 z-10 flex border-b border-ink bg-sheet" style={{ width: total }}>
        <span role="columnheader" className="w-26 shrink-0 px-2 pt-1 text-quiet">
          row
        </span>
        {mapping.columns.map((u, c) => {
          const col = sheet.columns.find((x) => x.field === u.field);
          return (
            <span key={c} role="columnheader" className="shrink-0 px-1 py-1" style={{ width: widths[c] }}>
              <Hint says={sheet.guess.why[c] ?? "Nothing was made of it"}>
                <button type="button" className="block max-w-full truncate px-1 text-quiet">
                  {sheet.guess.headings[c] || letter(c)}
                </button>
              </Hint>
              <span className="flex items-center">
                <Pick label={`What column ${letter(c)} is`} value={u.field} choices={choices} onPick={(f) => use(c, f)} />
                {col && col.units.length > 0 && (
                  <Pick
                    label={`Unit of column ${letter(c)}`}
                    value={u.unit}
                    choices={col.units.map((x) => ({ value: x, name: x }))}
                    onPick={(x) => setUnit(c, x)}
                  />
                )}
              </span>
            </span>
          );
        })}
      </div>
      <div className="relative" style={{ height: rows.getTotalSize(), width: total }}>
        {rows.getVirtualItems().map((v) => {
          const i = shown[v.index] ?? 0;
          const head = i < mapping.first;
          const [what, colour] = head ? ["heading", "text-quiet"] : (marks[said[i - mapping.first] ?? " "] ?? ["", ""]);
          const wrong = faults.get(i + 1);
          return (
            <div
              key={i}
              role="row"
              className={clsx(
                "absolute top-0 left-0 flex items-center border-b border-line/50",
                head && "text-quiet italic",
                wrong && "bg-red-wash",
              )}
              style={{ transform: `translateY(${v.start}px)`, height: line, width: total }}
            >
              <span role="rowheader" className="flex w-26 shrink-0 justify-between px-2">
                <span className="text-quiet">{i + 1}</span>
                <span className={colour}>{what}</span>
              </span>
              {mapping.columns.map((u, c) => {
                const f = wrong?.find((x) => x.column === c);
                const cell = (
                  <span
                    key={c}
                    role="cell"
                    className={clsx(
                      "shrink-0 truncate px-2",
                      u.field === "" && "text-quiet line-through decoration-1",
                      f && "font-bold text-red",
                    )}
                    style={{ width: widths[c] }}
                  >
                    {sheet.rows[i]?.[c] ?? ""}
                  </span>
                );
                return f ? (
                  <Hint key={c} says={f.why}>
                    {cell}
                  </Hint>
                ) : (
                  cell
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** letter is what spreadsheets call a column. */
function letter(c: number): string {
  return c < 26 ? String.fromCharCode(65 + c) : letter(Math.floor(c / 26) - 1) + letter(c % 26);
}
