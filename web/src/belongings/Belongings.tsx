import { at } from "../api/base";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { toast } from "sonner";
import type { Round } from "../api/client";
import { reason } from "../reason";
import { Photos } from "../photo/Photos";
import { Button } from "../ui/Button";
import { Empty } from "../ui/Empty";
import { Do, Get, Menu, Tick } from "../ui/Menu";
import { Pick } from "../ui/Pick";
import { litres, squares, weight } from "../units";
import { AdviceSheet, topics, type Topic } from "./Advice";
import { BringIn } from "./BringIn";
import { LineEntry } from "./LineEntry";
import { Cards } from "./Cards";
import { List } from "./List";
import { OneOut } from "./OneOut";
import { accepted, takeShop } from "./takeShop";
import { useThings } from "./useThings";
import { columns, grouped, groupings, totals, useAdvice, useOneOut, useRemove, useMatching, useSet, usual, type Grouping } from "./useList";
import { useDone } from "../app/shop";
import { stored } from "../app/stored";

/** shownColumns are those that are chosen for the list, dustSaidIn the shop whose dust was said. */
const shownColumns = stored<string[]>("columns", usual);
const dustSaidIn = stored("dust", "");

/** Belongings is the list of everything owned, one typed line at a time. */
export default function Belongings({ round, revision, onFit }: { round: Round; revision: number; onFit: (items: string[]) => void }) {
  const [filter, setFilter] = useKept("list filter", "");
  const [sort, setSort] = useKept("list sort", { by: "name", down: false });
  const [by, setBy] = useKept<Grouping>("list grouping", "");
  const [folded, setFolded] = useState<Set<string>>(new Set());
  const cols = shownColumns.use();
  const [chosen, setChosen] = useState<Set<string>>(new Set());
  const [fresh, setFresh] = useState<string>();
  const [came, setCame] = useState<string>();
  const [from, setFrom] = useState<File | string>();
  const [params, setParams] = useSearchParams();
  const topic = (params.get("topic") ?? undefined) as Topic | undefined;
  const setTopic = (next: Topic | undefined) =>
    setParams((p) => {
      if (next) p.set("topic", next);
      else p.delete("topic");
      return p;
    });
  const dustSaid = dustSaidIn.use() === round.name;
  const phone = usePhone();
  const picker = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const oneOut = useOneOut();
  const advice = useAdvice(revision);
  const all = useMemo(() => [...round.items, ...round.wished], [round]);
  const matching = useMatching(all, filter, revision) ?? all;
  const { things: items, columns: visible } = useThings(matching, sort, cols);
  const lines = useMemo(() => grouped(items, by, folded), [items, by, folded]);
  const mine = useMemo(() => items.filter((i) => chosen.has(i.id)), [items, chosen]);
  const sum = totals(mine.length > 0 ? mine : items);
  const said = topics(advice, dustSaid, round.units);

  const fold = (g: string) => setFolded((f) => (f.has(g) ? new Set([...f].filter((x) => x !== g)) : new Set([...f, g])));
  const goTo = (id: string) => {
    setFilter("");
    setFolded(new Set());
    setFresh(undefined);
    requestAnimationFrame(() => setFresh(id));
  };
  // A table is mapped first; a whole shop takes the place of the one that is there.
  const take = async (file: File) => {
    try {
      if (!(await takeShop(file, revision))) return setFrom(file);
      toast(`${file.name} has replaced the shop. Undo brings the old one back.`);
    } catch (e) {
      toast.error(reason(e), { duration: 12000 });
    }
    await client.invalidateQueries();
  };

  return (
    <div
      className="flex min-h-0 flex-1 flex-col gap-2 px-4 pt-3 pb-3"
      data-testid="belongings"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const file = e.dataTransfer.files[0];
        if (file) void take(file);
      }}
    >
      <LineEntry
        revision={revision}
        units={round.units}
        places={round.places}
        onAdded={(ids) => {
          setFresh(ids[0]);
          if (round.one_out) setCame(ids[0]);
        }}
        onRows={setFrom}
      />
      {came && <OneOut came={came} items={all} revision={revision} onDone={() => setCame(undefined)} />}
      <div className="flex items-center gap-4 text-small max-lg:flex-wrap max-lg:gap-y-1">
        {all.length > 0 && (
          <>
            <input
              value={filter}
              onChange={(e) => setFilter(e.target.value)}
              aria-label="Show only"
              placeholder="show only: a word, @bench, #sharp, assumed, homeless"
              className="w-87.5 max-w-full border-b max-md:w-full border-line bg-transparent px-1 py-0.5 placeholder:text-quiet"
            />
            <span aria-live="polite" data-testid="sum" className="min-w-0 flex-1 truncate max-lg:basis-full">
              <b>{mine.length > 0 ? `${mine.length} chosen` : `${sum.lines} things`}</b>, {sum.pieces}{" "}
              {sum.pieces === 1 ? "piece" : "pieces"}, {weight(sum.kg, round.units)}, {squares(sum.wall, round.units)} hung,{" "}
              {litres(sum.litres, round.units)}
            </span>
            <Pick label="Group" value={by} choices={groupings} onPick={(v) => setBy(v as Grouping)} />
            <Menu name="Columns">
              {columns.map((c) => (
                <Tick
                  key={c.id}
                  on={cols.includes(c.id)}
                  disabled={c.id === "name"}
                  onChange={(on) => shownColumns.set(on ? [...cols, c.id] : cols.filter((x) => x !== c.id))}
                >
                  {c.title}
                </Tick>
              ))}
            </Menu>
          </>
        )}
        <Menu name="Import and export">
          <Do onSelect={() => picker.current?.click()}>Import a table or a shop …</Do>
          <Get href={at("/api/v1/export/csv")}>Export the list as CSV</Get>
          <Get href={at("/api/v1/export/xlsx")}>Export the list as a workbook</Get>
          <Get href={at("/api/v1/print/list/drawing.pdf")}>Print the list (PDF)</Get>
          <Get href={at("/api/v1/export/json")}>Export the shop file</Get>
          <Get href={at("/api/v1/export/zip")}>Export the shop with its photos</Get>
          <Tick on={round.one_out} onChange={(on) => oneOut.mutate({ base: revision, on })}>
            One in, one out: ask what leaves
          </Tick>
        </Menu>
        <input
          ref={picker}
          type="file"
          accept={accepted}
          aria-label="File to import"
          className="hidden"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void take(file);
            e.target.value = "";
          }}
        />
      </div>
      {/* It comes a moment later than the list, which must not move then. */}
      <div
        className="flex h-5 items-baseline gap-x-6 overflow-x-auto overflow-y-hidden text-small whitespace-nowrap max-md:h-8"
        role="group"
        aria-label="Worth a look"
      >
        {said.map((t) => (
          <button
            key={t.id}
            aria-pressed={topic === t.id}
            onClick={() => setTopic(topic === t.id ? undefined : t.id)}
            className={`hover:text-blue ${topic === t.id ? "text-blue underline" : ""}`}
          >
            {t.says}
          </button>
        ))}
        {advice && said.length === 0 && all.length > 0 && (
          <span className="text-quiet">Every size is measured; nothing is listed twice.</span>
        )}
      </div>
      <div className="flex min-h-0 flex-1 gap-3">
        {all.length === 0 ? (
          <Nothing onFile={() => picker.current?.click()} />
        ) : phone ? (
          <Cards lines={lines} columns={visible} revision={revision} units={round.units} onFold={fold} fresh={fresh} />
        ) : (
          <List
            lines={lines}
            columns={visible}
            revision={revision}
            units={round.units}
            sort={sort}
            onSort={(by) => setSort((s) => ({ by, down: s.by === by && !s.down }))}
            chosen={chosen}
            onChoose={setChosen}
            folded={folded}
            onFold={fold}
            onPaste={setFrom}
            fresh={fresh}
          />
        )}
        {topic && advice && said.some((t) => t.id === topic) && (
          <AdviceSheet
            topic={topic}
            advice={advice}
            items={all}
            revision={revision}
            units={round.units}
            onGo={goTo}
            onClose={() => setTopic(undefined)}
            onDustSaid={() => {
              dustSaidIn.set(round.name);
              setTopic(undefined);
            }}
          />
        )}
      </div>
      {mine.length > 0 ? (
        <Together
          items={mine.map((i) => i.id)}
          one={mine.length === 1 ? mine[0] : undefined}
          revision={revision}
          onDone={() => setChosen(new Set())}
          onFit={onFit}
        />
      ) : (
        all.length > 0 && (
          <p className="max-md:hidden text-small text-quiet">
            Arrows go from cell to cell, typing or Enter changes one, Space chooses a row, Shift with an arrow chooses several, Ctrl d fills
            down. Rows of a spreadsheet can be pasted. What is slanted is assumed until you type it.
          </p>
        )
      )}
      {from !== undefined && <BringIn from={from} revision={revision} onClose={() => setFrom(undefined)} />}
    </div>
  );
}

/** Nothing stands in place of the list while nothing is listed. */
function Nothing({ onFile }: { onFile: () => void }) {
  const line = () => document.querySelector<HTMLInputElement>("[data-testid=belongings] input")?.focus();
  return (
    <div className="flex-1 border border-line bg-sheet px-5 py-3">
      <Empty title="Everything you own is listed here" act="Type the first thing" onAct={line}>
        One thing a line, with as much as you know of it. Sizes you leave out are assumed until you measure. From the list follow the homes
        of your things, how big a rack or cabinet has to be, and what fetching them costs you in a week.
      </Empty>
      <p className="mb-1 text-body">
        A list you have already need not be typed: import it, or paste rows of a spreadsheet into the line above.
      </p>
      <Button onClick={onFile}>Import a table or a shop …</Button>
    </div>
  );
}

/** Together changes one field of all that is chosen; of one alone it shows the photos. */
function Together({
  items: ids,
  one,
  revision,
  onDone,
  onFit,
}: {
  items: string[];
  one?: { id: string; name: string; photos: string[] };
  revision: number;
  onDone: () => void;
  onFit: (items: string[]) => void;
}) {
  const [field, setField] = useState("family");
  const [text, setText] = useState("");
  const set = useSet();
  const done = useDone();
  const remove = useRemove();
  const send = () => set.mutate({ base: revision, ids, field, text }, { onSuccess: (r) => done(`${r.what}.`, r) });
  return (
    <form
      className="flex items-center gap-3 border border-ink bg-sheet px-3 py-1.5 text-body"
      aria-label="Change all that is chosen"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <span className="font-bold whitespace-nowrap">{ids.length} chosen:</span>
      <Pick
        label="Field to change"
        value={field}
        onPick={setField}
        choices={columns.filter((c) => c.field).map((c) => ({ value: c.field ?? "", name: c.title }))}
      />
      <input
        value={text}
        onChange={(e) => setText(e.target.value)}
        aria-label="New value for all"
        aria-invalid={set.isError || undefined}
        placeholder="the same for all"
        className="w-45 border-b border-line bg-transparent px-1 placeholder:text-quiet"
      />
      <button className="bg-blue px-3 py-1 font-bold text-sheet hover:brightness-110" disabled={set.isPending}>
        Set
      </button>
      {set.isError && (
        <span role="alert" className="text-red">
          {set.error.message}
        </span>
      )}
      {one && <Photos id={one.id} name={one.name} photos={one.photos} revision={revision} height={34} />}
      <button type="button" className="ml-auto font-semibold whitespace-nowrap text-blue hover:underline" onClick={() => onFit(ids)}>
        Find homes for {ids.length === 1 ? "it" : "these"}
      </button>
      <button
        type="button"
        className="font-semibold whitespace-nowrap text-red hover:underline"
        onClick={() => remove.mutate({ base: revision, ids }, { onSuccess: () => onDone() })}
      >
        Take off the list
      </button>
      <button type="button" className="font-semibold whitespace-nowrap text-blue hover:underline" onClick={onDone}>
        Choose nothing
      </button>
    </form>
  );
}
