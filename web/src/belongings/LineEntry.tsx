import { useKept } from "../app/useKept";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useRef, useState } from "react";
import { api, changed, keys, unwrap, type Line, type Round } from "../api/client";
import { reason } from "../reason";
import { Chips } from "../note/Chips";
import { Silhouette } from "../stage/Silhouette";
import { size, uses, weight, type Units } from "../units";
import { toast } from "sonner";
import { IAmAt } from "./IAmAt";
import { useAdd, useNewStation } from "./useList";
import { stored } from "../app/stored";

/** typed are the last lines, the newest first. */
const typed = stored<string[]>("lines", []);

/** LineEntry takes one thing a line and shows what each piece is taken for while it is typed. */
export function LineEntry({
  revision,
  units,
  places,
  onAdded,
  onRows,
}: {
  revision: number;
  units: Units;
  /** where things can be said to live */
  places: Round["places"];
  onAdded: (ids: string[]) => void;
  onRows: (text: string) => void;
}) {
  const [text, setText] = useKept("line", "");
  const [at, setAt] = useKept("I am at", "");
  const [back, setBack] = useState(0);
  const [guide, setGuide] = useState(false);
  const [failed, setFailed] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const add = useAdd();
  const station = useNewStation();
  const client = useQueryClient();
  const later = useDeferredValue(text);
  const read = useQuery({
    queryKey: keys.line(later, revision),
    queryFn: async () => unwrap(await api.POST("/api/v1/lines", { body: { text: later } })),
    enabled: later.trim() !== "",
    placeholderData: keepPreviousData,
  }).data;
  const shown = text.trim() === "" ? undefined : read;
  // Completion works on the name: the words before the first figure or mark.
  const begun = /^\s*(?:\d+\s*[x×]?\s+)?([a-z' -]*)$/i.exec(text)?.[1] ?? "";
  const name = begun.trim();
  const offered = useQuery({
    queryKey: keys.kinds(name),
    queryFn: async () => unwrap(await api.GET("/api/v1/kinds", { params: { query: { q: name } } })),
    enabled: name.length >= 2,
    staleTime: Infinity,
  }).data;
  const offers = name.length >= 2 ? (offered ?? []).filter((k) => k.name !== name.toLowerCase()).slice(0, 5) : [];

  const complete = (kind: string) => {
    setText(text.slice(0, text.length - begun.length) + kind + " ");
    input.current?.focus();
  };
  const send = async () => {
    const said = text.trim();
    if (said === "" || add.isPending) return;
    try {
      // A line that says only where is where what follows lives.
      const now = unwrap(await api.POST("/api/v1/lines", { body: { text: said } }));
      if (now.here && now.floor === "") {
        setAt(now.place);
        setText("");
        return;
      }
      const done = await add.mutateAsync({ base: revision, lines: at === "" || now.here ? [said] : [`in ${at}`, said] });
      if (now.here) setAt(done.here);
      typed.set([said, ...typed.get().filter((l) => l !== said)].slice(0, 50));
      setText("");
      setFailed("");
      setBack(0);
      for (const note of done.notes) toast(note, { duration: 10000 });
      onAdded(done.ids);
    } catch (e) {
      setFailed(reason(e)); // said below the line; what was typed stays
    }
  };
  // A machine one works at is a station: it is not kept somewhere, other things are kept for it.
  const stand = async () => {
    try {
      const r = unwrap(await api.POST("/api/v1/stations", changed({ base: revision, line: text.trim() })));
      void client.invalidateQueries({ queryKey: keys.round });
      toast(r.blocked === "" ? `It stands on the floor now.` : `It stands on the floor now, but ${r.blocked}.`);
      setText("");
      input.current?.focus();
    } catch (e) {
      toast.error(reason(e));
    }
  };
  const recall = (by: number) => {
    const all = typed.get();
    const to = Math.max(0, Math.min(all.length, back + by));
    setBack(to);
    setText(to === 0 ? "" : (all[to - 1] ?? ""));
  };

  return (
    <div className="flex flex-col gap-1">
      <div className="flex items-stretch gap-3">
        <input
          ref={input}
          value={text}
          autoFocus
          onChange={(e) => {
            setText(e.target.value);
            setFailed("");
            add.reset();
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter") void send();
            else if (e.key === "Tab" && offers[0] && !e.shiftKey) {
              e.preventDefault();
              complete(offers[0].name);
            } else if (e.key === "ArrowUp") {
              e.preventDefault();
              recall(1);
            } else if (e.key === "ArrowDown" && back > 0) {
              e.preventDefault();
              recall(-1);
            } else if (e.key === "Escape") setText("");
          }}
          onPaste={(e) => {
            const rows = e.clipboardData.getData("text/plain").replace(/\r/g, "").trim();
            if (!/[\t\n]/.test(rows)) return;
            e.preventDefault();
            onRows(rows);
          }}
          aria-label="One thing a line"
          aria-describedby="line-read"
          placeholder={
            units === "metric"
              ? "one thing a line: jack plane 360x65x140 2.3kg weekly @bench hang"
              : "one thing a line: jack plane 14 x 2 1/2 x 5 1/2 in 5lb weekly @bench hang"
          }
          autoComplete="off"
          spellCheck={false}
          className="h-10 min-w-0 flex-1 border border-ink bg-sheet px-3 text-head placeholder:text-lead placeholder:text-quiet"
        />
        <IAmAt places={places} at={at} onGo={setAt} />
        <button aria-expanded={guide} onClick={() => setGuide(!guide)} className="px-2 text-small text-blue hover:underline">
          What can a line say?
        </button>
      </div>
      <div
        id="line-read"
        className="flex min-h-7.5 flex-wrap items-center gap-x-2 gap-y-1 text-small"
        aria-live="polite"
        data-testid="line-read"
      >
        {shown && (
          <Chips
            chips={shown.chips}
            after={(c) =>
              c.kind === "unknown" &&
              /^@[^\s,]+$/.test(c.text) && (
                <button
                  className="ml-1 font-semibold text-blue hover:underline"
                  onClick={() => station.mutate({ base: revision, name: c.text.slice(1) }, { onSuccess: () => input.current?.focus() })}
                >
                  make it one
                </button>
              )
            }
          />
        )}
        {shown && shown.why === "" && shown.station !== "" && (
          <span>
            Something you work at?{" "}
            <button className="font-semibold text-blue hover:underline" onClick={() => void stand()}>
              Put the {shown.station} on the floor
            </button>
          </span>
        )}
        {shown?.here && (
          <span className="ml-auto text-quiet">
            {shown.place || shown.floor ? "Enter: what you type next lives there" : "Enter: what you type next has no home yet"}
          </span>
        )}
        {shown && shown.why === "" && (
          <span className="ml-auto flex items-center gap-2 whitespace-nowrap text-quiet">
            <Portrait read={shown} />
            {shown.count > 1 && `${shown.count} of `}
            {size(shown.size, units)}
            {shown.kg > 0 && `, ${weight(shown.kg, units)}`}, {uses(shown.uses)}
            {shown.assumed.length > 0 && <i> · {shown.assumed.length} assumed</i>}
          </span>
        )}
        {shown && shown.why !== "" && !shown.here && <span className="text-red">{shown.why}</span>}
        {!shown && offers.length === 0 && (
          <span className="text-quiet">Enter lists it · ↑ brings earlier lines back · Tab completes the name</span>
        )}
        {(failed !== "" || add.isError) && (
          <span role="alert" className="font-semibold text-red">
            {failed || add.error?.message}
          </span>
        )}
      </div>
      {offers.length > 0 && (
        <div className="flex flex-wrap gap-x-3 text-small" data-testid="offers">
          {offers.map((k, i) => (
            <button key={k.id} onClick={() => complete(k.name)} className="hover:text-blue">
              {i === 0 && <span className="text-quiet">Tab </span>}
              <b>{k.name}</b> <span className="narrow text-quiet">{k.group}</span>
            </button>
          ))}
        </div>
      )}
      {guide && <Guide />}
    </div>
  );
}

/** Portrait is the silhouette of what is being typed. */
function Portrait({ read }: { read: Line }) {
  const [w, h] = [read.size[0] ?? 1, read.size[1] ?? 1];
  const k = 26 / Math.max(w, h);
  return (
    <svg width={Math.max(4, w * k)} height={Math.max(4, h * k)} aria-hidden>
      <Silhouette kind={read.glyph} x={0} y={0} w={Math.max(4, w * k)} h={Math.max(4, h * k)} />
    </svg>
  );
}

const sayings: [string, string][] = [
  ["8 · 8x · a pair of · x8", "how many alike"],
  ["360x65x140 · 14 x 2 1/2 x 5 in", "size, in any order and either system"],
  ["wide:65 high:360 deep:140", "sides by their names"],
  ["600 · 4.8 m", "length of a clamp or a board"],
  ["2.3kg · 800 g · 5 lb 4 oz", "weight of one"],
  ["daily · weekly · 3x a week · rarely", "how often it is fetched"],
  ["@bench", "the station it is used at; several may follow"],
  ["hang · stand · flat · slot · lean · bin · magnet", "ways it can be held"],
  ["#sharp · #fragile · #dust · #freeze · #flammable · #child · #rust · #dull · #lent", "special care"],
  ["family:router", "what it wants to live with"],
  ["24 in box 200x150x60", "several pieces kept as one thing"],
  ["in K2-3 · in chest 2 · on the peg rail · on the floor at C", "where it lives; by itself on a line it holds for all that follow"],
];

function Guide() {
  return (
    <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 border border-line bg-sheet px-3 py-2 text-small">
      {sayings.map(([say, means]) => (
        <div key={say} className="contents">
          <dt className="font-semibold">{say}</dt>
          <dd className="m-0 text-quiet">{means}</dd>
        </div>
      ))}
    </dl>
  );
}
