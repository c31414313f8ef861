import { keepPreviousData, useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { at } from "../api/base";
import { api, keys, unwrap, type Happened, type Round } from "../api/client";
import { happened } from "../app/shop";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { day } from "../units";
import { dayOf, named, timeOf } from "./changed";

const page = 60;

/** kinds of what happens, as people say them. */
const kinds: { value: string; name: string }[] = [
  { value: "", name: "everything" },
  { value: "used", name: "used" },
  { value: "taken", name: "taken" },
  { value: "put-back", name: "put back" },
  { value: "lent", name: "lent" },
  { value: "returned", name: "returned" },
  { value: "laid", name: "laid down" },
  { value: "moved", name: "moved" },
  { value: "seen", name: "seen" },
  { value: "missed", name: "missing" },
  { value: "noted", name: "noted" },
];

/** Log is what happened in the shop, day by day: beside its changes, and left alone by undo. */
export function Log({ round }: { round: Round }) {
  const [q, setQ] = useState("");
  const [what, setWhat] = useState("");
  const client = useQueryClient();
  const names = useMemo(() => named(round), [round]);
  const query = { q: q.trim() || undefined, what: what || undefined };
  const log = useInfiniteQuery({
    queryKey: keys.log(q.trim(), what),
    queryFn: async ({ pageParam }) =>
      unwrap(await api.GET("/api/v1/events", { params: { query: { ...query, before: pageParam || undefined, limit: page } } })),
    initialPageParam: 0,
    getNextPageParam: (last: Happened[]) => (last.length === page ? last.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  });
  const list = log.data?.pages.flat();
  const csv = new URLSearchParams(Object.entries(query).filter((e): e is [string, string] => e[1] !== undefined));
  const undo = async (id: number) => {
    await api.POST("/api/v1/events", { body: { what: "taken-back", corrects: id } });
    happened(client);
  };
  const says = (e: Happened) => {
    const name = e.item ? (names.get(e.item)?.name ?? e.item) : "";
    const many = (e.n ?? 1) > 1 ? `${e.n} × ` : "";
    const verb = kinds.find((k) => k.value === e.what)?.name ?? e.what;
    return [
      `${many}${name}${name ? " " : ""}${verb}`,
      e.to && (e.what === "lent" ? ` to ${e.to}` : ` by ${e.to}`),
      e.due && `, back by ${day(e.due)}`,
      e.on && `, on ${e.on}`,
      e.place && (e.what === "taken" || e.what === "lent" ? ` from ${e.place}` : `, ${e.place}`),
    ]
      .filter(Boolean)
      .join("");
  };
  return (
    <>
      <p className="mb-2 text-body text-quiet">
        What was used, taken, lent and seen. It is only ever added to: undo leaves it alone; what was noted wrongly is taken back here.
      </p>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <input
          aria-label="Search the log"
          value={q}
          onChange={(e) => setQ(e.target.value)}
          placeholder="thing, place, person, note"
          className="w-64 border border-line bg-sheet px-2 py-1 placeholder:text-quiet"
        />
        <Pick label="What happened" value={what} choices={kinds} onPick={setWhat} />
        <a className="font-semibold text-blue hover:underline" href={at(`/api/v1/log/events.csv?${csv.toString()}`)}>
          Save as a table
        </a>
      </div>
      {list?.length === 0 && <p>{q || what ? "Nothing like that is noted." : "Nothing has been noted yet."}</p>}
      <ol className="m-0 list-none p-0" aria-label="What happened, newest first">
        {list?.map((e, i) => (
          <li key={e.id}>
            {(i === 0 || dayOf({ at: e.at }) !== dayOf({ at: list[i - 1]?.at ?? "" })) && (
              <h3 className="mt-3 mb-1 border-b border-line text-small font-semibold text-quiet">{day(dayOf({ at: e.at }))}</h3>
            )}
            <div className="grid grid-cols-[76px_1fr_auto] gap-x-2 py-0.5">
              <span className="text-small leading-[24px] whitespace-nowrap text-quiet tabular-nums">
                {e.at.length > 10 ? timeOf({ at: e.at }) : ""}
              </span>
              <span>
                {says(e)}
                {e.note && <span className="text-quiet"> · {e.note}</span>}
                {e.device && e.device !== "screen" && <span className="text-small text-quiet"> · {e.device}</span>}
              </span>
              <Button onClick={() => void undo(e.id ?? 0)}>Take back</Button>
            </div>
          </li>
        ))}
      </ol>
      {log.hasNextPage && (
        <button className="mt-2 font-semibold text-blue" onClick={() => void log.fetchNextPage()} disabled={log.isFetchingNextPage}>
          Earlier
        </button>
      )}
    </>
  );
}
