import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import type { Revision, Round } from "../api/client";
import { day } from "../units";
import { changed, dayOf, named, timeOf, type Named } from "./changed";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Compare } from "./Compare";
import { Log } from "./Log";
import { useGoBack, useHistory } from "./useHistory";

/** most is how many names a line has room for, everything how many are no news one by one. */
const most = 6;
const everything = 100;

const sentence = (what: string) => what.charAt(0).toLocaleUpperCase() + what.slice(1);

/** History shows every change of the shop, newest first, of one thing or of all. */
export default function History({ round, revision }: { round: Round; revision: number }) {
  const [params, setParams] = useSearchParams();
  const of = params.get("of") ?? "";
  const log = params.has("log");
  const history = useHistory(of, revision);
  const names = useMemo(() => named(round), [round]);
  const list = history.data?.pages.flat();
  const back = useGoBack();
  const from = Number(params.get("from") ?? 0);
  const to = Number(params.get("to") ?? 0);
  const compare = (a: number, b: number) =>
    setParams((p) => {
      p.delete("from");
      p.delete("to");
      if (a) p.set("from", String(a));
      if (b) p.set("to", String(b));
      return p;
    });
  const only = (id: string) =>
    setParams((p) => {
      if (id) p.set("of", id);
      else p.delete("of");
      return p;
    });
  return (
    <div className="flex min-h-0 w-full flex-1 gap-6 overflow-y-auto px-4 py-4 max-lg:flex-col">
      {from > 0 && <Compare from={from} to={to} revision={revision} onClose={() => compare(0, 0)} />}
      <div className="mx-auto w-full max-w-215 min-w-0">
        <h2 className="mb-1 text-head font-bold">History</h2>
        <div className="mb-2">
          <Choices
            as="words"
            label="What is shown"
            value={log ? "log" : "changes"}
            choices={[
              { value: "changes", name: "changes to the shop" },
              { value: "log", name: "what happened in it" },
            ]}
            onPick={(v) =>
              setParams((p) => {
                if (v === "log") p.set("log", "1");
                else p.delete("log");
                return p;
              })
            }
          />
        </div>
        {log ? (
          <Log round={round} />
        ) : (
          <>
            <p className="mb-2 text-body text-quiet">
              {from > 0
                ? "Choose “Compare to here” at another change, or compare with the shop as it is now."
                : "Every change to the shop, newest first. Going back is a change as well: it can be undone, and nothing is lost from this list."}
            </p>
            {of && (
              <p className="mb-2 text-body">
                Only changes to <b>{names.get(of)?.name ?? of}</b>.{" "}
                <button className="font-semibold text-blue" onClick={() => only("")}>
                  Show all
                </button>
              </p>
            )}
            {history.isError && <p className="text-red">{history.error.message}</p>}
            {list?.length === 0 && (
              <p>{of ? "Nothing has changed it yet." : "Nothing has been changed yet. What you enter, move or take away shows up here."}</p>
            )}
            <ol className="m-0 list-none p-0" aria-label="Changes">
              {list?.map((r, i) => (
                <li key={r.id} data-change={r.id}>
                  {(i === 0 || dayOf(r) !== dayOf(list[i - 1] as Revision)) && (
                    <h3 className="mt-3 mb-1 border-b border-line text-small font-semibold text-quiet">{day(dayOf(r))}</h3>
                  )}
                  <div className="grid grid-cols-[76px_1fr] gap-x-2 py-1">
                    <span className="text-small leading-[24px] text-quiet tabular-nums whitespace-nowrap">{timeOf(r)}</span>
                    <div>
                      <p className="m-0">
                        {r.kind === "undo" ? `Undone: ${r.what}` : r.kind === "redo" ? `Done again: ${r.what}` : sentence(r.what)}{" "}
                        {r.who !== "you" && <span className="text-small text-quiet">by {r.who}</span>}
                      </p>
                      <Changes of={changed(r, names)} only={of ? undefined : only} />
                      <p className="m-0 flex flex-wrap gap-x-4 text-small">
                        {from === 0 ? (
                          <Button onClick={() => compare(r.id, 0)}>Compare from here</Button>
                        ) : (
                          r.id !== from && <Button onClick={() => compare(from, r.id)}>Compare to here</Button>
                        )}
                        {r.id < revision && (
                          <Button disabled={back.isPending} onClick={() => back.mutate({ base: revision, id: r.id })}>
                            Undo up to here
                          </Button>
                        )}
                      </p>
                    </div>
                  </div>
                </li>
              ))}
            </ol>
            {history.hasNextPage && (
              <button
                className="mt-2 font-semibold text-blue"
                onClick={() => void history.fetchNextPage()}
                disabled={history.isFetchingNextPage}
              >
                Earlier changes
              </button>
            )}
          </>
        )}
      </div>
    </div>
  );
}

function Changes({ of, only }: { of: Named[]; only?: (id: string) => void }) {
  if (of.length === 0) return null;
  if (of.length > everything) return <p className="m-0 text-small text-quiet">{of.length} things, places and the like</p>;
  return (
    <p className="m-0 flex flex-wrap gap-x-4 text-small">
      {of.slice(0, most).map((c) => (
        <span key={c.id} className="whitespace-nowrap">
          {c.on ? (
            <Link className="text-blue" to={{ pathname: "/round", search: `on=${encodeURIComponent(c.on)}` }}>
              {c.name}
            </Link>
          ) : (
            c.name
          )}
          {only && (
            <button
              className="ml-1.5 text-quiet underline decoration-dotted hover:text-blue"
              onClick={() => only(c.id)}
              aria-label={`its history: ${c.name}`}
            >
              its history
            </button>
          )}
        </span>
      ))}
      {of.length > most && <span className="text-quiet">and {of.length - most} more</span>}
    </p>
  );
}
