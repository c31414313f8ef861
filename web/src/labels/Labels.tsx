import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { at } from "../api/base";
import { api, keys, unwrap, type Label, type LabelStock, type Round } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Empty } from "../ui/Empty";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { OneByOne } from "./OneByOne";
import { TypedIn } from "../ui/TypedIn";
import { distance, fixed, typedLength } from "../units";

/** Own are the measures of a sheet of one's own, mm. */
interface Own {
  paper: "A4" | "Letter";
  w: number;
  h: number;
  cols: number;
  rows: number;
  left: number;
  top: number;
  step_x: number;
  step_y: number;
}

const measures: { key: Exclude<keyof Own, "paper">; label: string }[] = [
  { key: "w", label: "width" },
  { key: "h", label: "height" },
  { key: "cols", label: "beside each other" },
  { key: "rows", label: "below each other" },
  { key: "left", label: "from the left edge" },
  { key: "top", label: "from the upper edge" },
  { key: "step_x", label: "from one to the next" },
  { key: "step_y", label: "from one row to the next" },
];

const keyOf = (l: Label) => `${l.of}:${l.id}`;

/** Labels are what stands on places, boxes and things, on sheets to print. */
export default function Labels({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const client = useQueryClient();
  const [stock, setStock] = useKept("label stock", round.units === "imperial" ? 10 : 0);
  const [own, setOwn] = useKept<Own>("label measures", {
    paper: "A4",
    w: 70,
    h: 36,
    cols: 3,
    rows: 8,
    left: 0,
    top: 4.5,
    step_x: 70,
    step_y: 36,
  });
  const [start, setStart] = useKept("first label", 1);
  const [items, setItems] = useKept("labels of things", false);
  const [codes, setCodes] = useKept("label codes", true);
  const [cut, setCut] = useKept("cut lines", false);
  const [base, setBase] = useKept("label address", location.origin);
  const [left, setLeft] = useState<string[]>([]);
  const [page, setPage] = useState(1);
  const data = useQuery({
    queryKey: keys.labels(items, Math.max(0, stock), revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/labels", { params: { query: { items, stock: Math.max(0, stock) } } })),
    placeholderData: (before) => before,
  }).data;
  const loop = /^https?:\/\/(127\.|localhost|\[::1\])/.test(base);
  // Under which address phones find the shop is asked only where the one that is typed is none.
  const reached =
    useQuery({
      queryKey: keys.devices,
      queryFn: async () => unwrap(await api.GET("/api/v1/devices")),
      staleTime: 60_000,
      enabled: loop,
    }).data?.addresses ?? [];
  const printed = useMutation({
    mutationFn: async (only: string[]) => unwrap(await api.POST("/api/v1/labels/printed", { body: { only } })),
    onSuccess: () => {
      toast("They count as on their places, as they stand now.");
      void client.invalidateQueries({ queryKey: ["labels"] });
    },
    onError: (e) => toast.error(e.message),
  });
  if (!data) return <p className="p-4 text-quiet">Looking at what stands on the labels …</p>;
  if (data.labels.length === 0)
    return (
      <div className="p-4">
        <Empty title="There is nothing to label yet" act="Say what storage there is" to="/places">
          Each shelf, drawer, rail and box gets a label with its address, what is in it, and cautions.
        </Empty>
      </div>
    );
  const stale = new Set(data.labels.slice(0, data.stale).map(keyOf));
  const fine = (mm: number) => (round.units === "metric" ? fixed(mm, Number.isInteger(mm) ? 0 : 1) : typedLength(mm, round.units));
  const unit = round.units === "metric" ? " mm" : "";
  const called = (s: LabelStock) => `${fine(s.w)} × ${fine(s.h)}${unit}, ${s.cols * s.rows} on ${s.paper}`;
  const wanted = data.labels.filter((l) => !left.includes(keyOf(l)));
  const all = left.length === 0;
  const query = (more: Record<string, string>) => {
    const q = new URLSearchParams({ stock: String(stock), start: String(start), ...more });
    if (stock < 0) for (const [k, v] of Object.entries(own)) q.set(k, String(v));
    if (items) q.set("items", "true");
    if (cut) q.set("cut", "true");
    if (codes) {
      q.set("codes", "true");
      if (base !== "") q.set("base", base);
    }
    if (!all) q.set("only", wanted.map(keyOf).join(","));
    return q.toString();
  };
  const each = stock < 0 ? own.cols * own.rows : (data.stocks[stock]?.cols ?? 1) * (data.stocks[stock]?.rows ?? 1);
  const pages = Math.max(1, Math.ceil((wanted.length + start - 1) / Math.max(1, each)));
  const shown = Math.min(page, pages);
  const number = (text: string) => Number(text.replace(",", "."));
  return (
    <div className="round-scroll h-full overflow-y-auto px-4 py-3 text-body" tabIndex={0} role="region" aria-label="Labels">
      <div className={phone ? "" : "grid grid-cols-[minmax(0,22rem)_minmax(0,1fr)_minmax(0,25rem)] gap-6"}>
        <div>
          <Part title="The sheets">
            <Pick
              label="Size of the labels"
              value={String(stock)}
              choices={[...data.stocks.map((s, i) => ({ value: String(i), name: called(s) })), { value: "-1", name: "measures of my own" }]}
              onPick={(v) => {
                setStock(Number(v));
                setStart(1);
              }}
            />
            {stock < 0 && (
              <div className="mt-1">
                <Pick
                  label="Paper"
                  value={own.paper}
                  choices={[
                    { value: "A4", name: "A4" },
                    { value: "Letter", name: "Letter" },
                  ]}
                  onPick={(paper) => setOwn({ ...own, paper: paper as Own["paper"] })}
                />
                {measures.map((m) => (
                  <Labelled key={m.key} label={m.label} after={m.key === "cols" || m.key === "rows" ? "" : "mm"} width="w-full">
                    <TypedIn
                      key={own[m.key]}
                      value={String(own[m.key])}
                      onDone={(text) => {
                        const v = number(text);
                        if (Number.isFinite(v)) setOwn({ ...own, [m.key]: v });
                      }}
                      onTyped={() => undefined}
                      className="w-16 border-b border-line text-right"
                    />
                  </Labelled>
                ))}
              </div>
            )}
            <Labelled label="begin at label" after={`of ${each} on the first sheet`} width="w-full">
              <TypedIn
                key={start}
                value={String(start)}
                onDone={(text) => {
                  const v = Math.round(number(text));
                  if (v >= 1 && v <= each) setStart(v);
                }}
                onTyped={() => undefined}
                className="w-10 border-b border-line text-right"
              />
            </Labelled>
            <Tickbox on={items} onChange={setItems}>
              one for each thing as well
            </Tickbox>
            <Tickbox on={cut} onChange={setCut}>
              lines to cut along
            </Tickbox>
            <Tickbox on={codes} onChange={setCodes}>
              codes that open the place on a phone
            </Tickbox>
            {codes && (
              <>
                <Labelled label="phones find the shop at" width="w-full">
                  <TypedIn key={base} value={base} onDone={setBase} onTyped={() => undefined} className="w-full border-b border-line" />
                </Labelled>
                {loop && (
                  <>
                    <p className="m-0 text-small text-red">
                      This address works on this machine alone. Type the one phones use; codes keep what is printed in them.
                    </p>
                    {reached.map((a) => (
                      <Button key={a} onClick={() => setBase(a)}>
                        Use {a}
                      </Button>
                    ))}
                  </>
                )}
              </>
            )}
          </Part>
          <p className="mt-3 flex flex-wrap gap-x-4 gap-y-2">
            <a
              className="bg-blue px-3 py-1.5 font-bold text-sheet"
              href={at(`/api/v1/labels/sheet.pdf?${query({})}`)}
              target="_blank"
              rel="noreferrer"
            >
              Open {pages === 1 ? "the sheet" : `${pages} sheets`} to print
            </a>
            <Button disabled={printed.isPending} onClick={() => printed.mutate(wanted.map(keyOf))}>
              They are on their places
            </Button>
          </p>
          <p className="mt-1 text-small text-quiet">Print at actual size, not fitted to the page.</p>
          <OneByOne only={wanted.map(keyOf)} codes={codes} base={codes ? base : ""} />
        </div>
        {!phone && (
          <figure className="m-0">
            <img
              key={query({})}
              src={at(`/api/v1/labels/sheet.svg?${query({ page: String(shown) })}`)}
              alt={`Sheet ${shown} of ${pages}`}
              className="max-h-[40rem] w-full border border-line bg-white object-contain"
            />
            {pages > 1 && (
              <figcaption className="mt-1 flex justify-center gap-4">
                <Button disabled={shown === 1} onClick={() => setPage(shown - 1)}>
                  Sheet before
                </Button>
                <span>
                  {shown} of {pages}
                </span>
                <Button disabled={shown === pages} onClick={() => setPage(shown + 1)}>
                  Next sheet
                </Button>
              </figcaption>
            )}
          </figure>
        )}
        <div>
          <Part
            title={
              data.stale === 0
                ? "All are as they should be"
                : data.stale === data.labels.length
                  ? `${data.labels.length} labels`
                  : `${data.stale} of ${data.labels.length} are not as they should be`
            }
          >
            <p className="m-0 flex gap-4 text-small">
              <Button onClick={() => setLeft([])}>All</Button>
              <Button onClick={() => setLeft(data.labels.filter((l) => !stale.has(keyOf(l))).map(keyOf))}>Only what changed</Button>
              <Button onClick={() => setLeft(data.labels.map(keyOf))}>None</Button>
            </p>
            <ul className="m-0 mt-1 list-none p-0">
              {data.labels.map((l) => {
                const k = keyOf(l);
                const small = stock >= 0 && data.small.find((s) => s.label === l.address);
                return (
                  <li key={k} className="border-b border-line py-0.5">
                    <Tickbox on={!left.includes(k)} onChange={(on) => setLeft((was) => (on ? was.filter((x) => x !== k) : [...was, k]))}>
                      <b className="text-blue">{l.address}</b> {l.name !== l.address && l.name}
                      {stale.has(k) && data.stale < data.labels.length && <span className="text-small text-red"> changed</span>}
                      <span className="block text-small text-quiet">
                        {l.of === "place" && `read from ${distance(l.distance, round.units)}`}
                        {l.under && ", from below"}
                        {l.hazards.length > 0 && ` · ${l.hazards.join(", ").toLowerCase()}`}
                      </span>
                      {small && (
                        <span className="block text-small text-red">
                          letters of {fine(Math.round(small.has * 10) / 10)}
                          {unit}; {fine(Math.round(small.needs * 10) / 10)}
                          {unit} would be read from there
                          {small.larger >= 0 && data.stocks[small.larger] && `, as on ${called(data.stocks[small.larger]!)}`}
                        </span>
                      )}
                    </Tickbox>
                  </li>
                );
              })}
            </ul>
          </Part>
        </div>
      </div>
    </div>
  );
}
