import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useRef, useState } from "react";
import { Minus, Plus } from "lucide-react";
import { toast } from "sonner";
import { api, changed, keys, unwrap, type Round, type TickRow } from "../api/client";
import { useDone } from "../app/shop";
import { useKept } from "../app/useKept";
import { reason } from "../reason";
import { Silhouette } from "../stage/Silhouette";
import { Button } from "../ui/Button";
import { size, type Units } from "../units";
import { IAmAt } from "./IAmAt";
import { useListChange } from "./useList";

/** Pending is what is ticked and not on the list yet: how many more of each kind. */
type Pending = Record<string, { name: string; more: number }>;

/** counted takes the number before a word: "14 gou" is fourteen of what begins with gou. */
const counted = (text: string): [number, string] => {
  const m = /^\s*(\d{1,4})\s*[x×]?\s*(.*)$/.exec(text);
  return m ? [Number(m[1]), m[2] ?? ""] : [1, text];
};

/** says a place: in, on and at begin one, and an address is one. */
const place = /^\s*((in|into|on|at|under)\s|no (place|home)|nowhere|[a-z]{1,3}\d{1,3}(-\d+)?\s*$)/i;

/** Ticks takes common things off a list of what people who make such things have, place by place. */
export default function Ticks({ round, revision }: { round: Round; revision: number }) {
  const [at, setAt] = useKept("I am at", "");
  const [pending, setPending] = useKept<Pending>("ticked", {});
  const [text, setText] = useState("");
  const [row, setRow] = useState(0);
  const [why, setWhy] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const done = useDone();
  const client = useQueryClient();
  const tick = useListChange(async (v: { base: number; place: string; ticks: { kind: string; more: number }[] }) =>
    unwrap(await api.POST("/api/v1/ticks", changed(v))),
  );
  const [count, word] = counted(text);
  const q = useDeferredValue(place.test(text) ? "" : word.trim());
  const asked = (q: string) => ({
    queryKey: keys.ticks(at, q, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/ticks", { params: { query: { place: at, q } } })),
    staleTime: Infinity,
  });
  const rows = useQuery({ ...asked(q), placeholderData: keepPreviousData }).data;
  const chosen = rows?.[Math.min(row, rows.length - 1)];
  const ticked = Object.entries(pending);
  const sum = ticked.reduce((n, [, t]) => n + Math.max(0, t.more), 0);
  const name = round.places.find((p) => p.id === at)?.name;

  const add = (r: TickRow, more: number) => {
    setWhy("");
    setPending((p) => {
      const now = Math.max((p[r.id]?.more ?? 0) + more, -r.here);
      const rest = Object.entries(p).filter(([kind]) => kind !== r.id);
      return Object.fromEntries(now === 0 ? rest : [...rest, [r.id, { name: r.name, more: now }]]);
    });
  };
  const keep = async () => {
    if (ticked.length === 0) return true;
    try {
      const r = await tick.mutateAsync({ base: revision, place: at, ticks: ticked.map(([kind, t]) => ({ kind, more: t.more })) });
      setPending({});
      done(`${sum > 0 ? `${sum} listed` : "Taken off"}${at ? ` in ${at}` : ""}.`, r.revision);
      for (const note of r.notes) toast(note, { duration: 10000 });
      return true;
    } catch (e) {
      setWhy(reason(e));
      return false;
    }
  };
  // Somewhere else: what was ticked here is listed first.
  const go = async (to: string) => {
    if (await keep()) setAt(to);
  };
  const write = async () => {
    if (tick.isPending) return;
    try {
      const r = unwrap(
        await api.POST("/api/v1/items", changed({ base: revision, lines: at === "" ? [text.trim()] : [`in ${at}`, text.trim()] })),
      );
      void client.invalidateQueries({ queryKey: keys.round });
      setText("");
      done(`${r.revision.what}.`, r.revision);
      for (const note of r.notes) toast(note, { duration: 10000 });
    } catch (e) {
      setWhy(reason(e));
    }
  };
  const enter = async () => {
    if (text.trim() === "") return void keep();
    if (place.test(text)) {
      try {
        const read = unwrap(await api.POST("/api/v1/lines", { body: { text } }));
        if (!read.here) return setWhy(read.chips.find((c) => c.kind === "unknown")?.says ?? `Hobrak knows no place “${text.trim()}”.`);
        if (!(await keep())) return;
        if (read.floor !== "") {
          const made = unwrap(await api.POST("/api/v1/items", changed({ base: revision, lines: [text] })));
          setAt(made.here);
        } else setAt(read.place);
        setText("");
        setWhy("");
      } catch (e) {
        setWhy(reason(e));
      }
      return;
    }
    try {
      // Whoever types fast means what is typed, not what is shown yet.
      const list = await client.query(asked(word.trim()));
      const meant = list[Math.min(row, list.length - 1)];
      // What is on no list is a line like any other.
      if (!meant) return void write();
      add(meant, count);
      setText("");
      setRow(0);
    } catch (e) {
      setWhy(reason(e));
    }
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2 px-4 pt-3 pb-3" data-testid="ticks" aria-busy={tick.isPending}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <input
          ref={input}
          value={text}
          autoFocus
          onChange={(e) => {
            setText(e.target.value);
            setRow(0);
            setWhy("");
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter") void enter();
            else if (e.key === "ArrowDown" || e.key === "ArrowUp") {
              e.preventDefault();
              setRow((n) => Math.max(0, Math.min((rows?.length ?? 1) - 1, n + (e.key === "ArrowDown" ? 1 : -1))));
            } else if (e.key === "Escape") setText("");
            else if (text === "" && chosen && (e.key === "+" || e.key === "-")) {
              e.preventDefault();
              add(chosen, e.key === "+" ? 1 : -1);
            }
          }}
          aria-label="What is there"
          aria-describedby="ticks-say"
          placeholder={round.places.length > 0 ? "3 rasp, or in chest 2" : "3 rasp"}
          autoComplete="off"
          spellCheck={false}
          className="h-10 w-75 min-w-0 border border-ink bg-sheet px-3 text-head placeholder:text-lead placeholder:text-quiet max-md:w-full"
        />
        <IAmAt places={round.places} at={at} onGo={(to) => void go(to)} />
        <Button kind="main" className="ml-auto" disabled={ticked.length === 0 || tick.isPending} onClick={() => void keep()}>
          {ticked.length === 0 ? "Nothing ticked yet" : `Put ${sum > 0 ? sum : ""} on the list`.replace("  ", " ")}
        </Button>
      </div>
      <div id="ticks-say" aria-live="polite" className="flex min-h-6 flex-wrap items-baseline gap-x-3 gap-y-0.5 text-small">
        {why !== "" ? (
          <span role="alert" className="font-semibold text-red">
            {why}
          </span>
        ) : ticked.length > 0 ? (
          <>
            <b>{at ? `In ${at}${name && name !== at ? `, ${name}` : ""}:` : "Without a home yet:"}</b>
            {ticked.map(([id, t]) => (
              <button
                key={id}
                className="hover:text-red hover:line-through"

                onClick={() => setPending((p) => Object.fromEntries(Object.entries(p).filter(([k]) => k !== id)))}
              >
                {t.more > 0 ? `${t.more} × ` : `${t.more} `}
                {t.name}
              </button>
            ))}
          </>
        ) : (
          <span className="text-quiet">
            A number and the first letters, then Enter: 3 rasp, or 2 cn for two cordless nailers. Enter by itself puts all that is ticked on
            the list
            {at ? `, living in ${at}` : ""}.
          </span>
        )}
      </div>
      <ul
        className="m-0 grid min-h-0 flex-1 list-none auto-rows-min grid-cols-[repeat(auto-fill,minmax(14.5rem,1fr))] content-start gap-x-3 gap-y-1 overflow-y-auto border-t border-line p-0 pt-2"
        aria-label="Things to tick"
      >
        {rows?.map((r, i) => (
          <Kind key={r.id} row={r} more={pending[r.id]?.more ?? 0} on={i === row} units={round.units} onAdd={(n) => add(r, n)} />
        ))}
        {rows?.length === 0 && (
          <li className="col-span-full text-quiet">
            Nothing on the list begins with “{word}”. Enter takes it as a line: with its size, how often, and all a line can say.
          </li>
        )}
      </ul>
    </div>
  );
}

/** Kind of thing with its picture, usual size, and how many are there. */
function Kind({ row: r, more, on, units, onAdd }: { row: TickRow; more: number; on: boolean; units: Units; onAdd: (n: number) => void }) {
  const [w, h] = [r.size[0] ?? 1, r.size[1] ?? 1];
  const k = Math.min(34 / w, 34 / h);
  const n = r.here + more;
  return (
    <li
      data-kind={r.id}
      className={`flex items-center gap-2 border px-1.5 py-1 ${on ? "border-blue" : "border-transparent"} ${more !== 0 ? "bg-blue-wash" : ""}`}
    >
      <svg width={36} height={36} aria-hidden className="shrink-0">
        <Silhouette kind={r.glyph} x={18 - (w * k) / 2} y={35 - h * k} w={w * k} h={h * k} />
      </svg>
      <button className="min-w-0 flex-1 text-left leading-tight" onClick={() => onAdd(1)}>
        <span className="line-clamp-2 font-semibold">{r.name}</span>
        <span className="narrow block text-small text-quiet">{r.fits ? size(r.size.slice(0, 2), units) : "not kept in such a place"}</span>
      </button>
      {n > 0 && (
        <>
          <Button kind="tool" label={`One ${r.name} less`} onClick={() => onAdd(-1)}>
            <Minus size={15} aria-hidden />
          </Button>
          <b className="min-w-5 text-center tabular-nums">{n}</b>
        </>
      )}
      <Button kind="tool" label={`One more ${r.name}`} onClick={() => onAdd(1)}>
        <Plus size={15} aria-hidden />
      </Button>
    </li>
  );
}
