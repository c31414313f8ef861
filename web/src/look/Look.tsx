import { useState } from "react";
import { useSearchParams } from "react-router";
import type { LookRound, LookStop, Round } from "../api/client";
import { usePhone } from "../app/usePhone";
import { useSet } from "../belongings/useList";
import { Thumb } from "../photo/Thumb";
import { Inside } from "../places/Inside";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Empty } from "../ui/Empty";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { TypedIn } from "../ui/TypedIn";
import { day } from "../units";
import { PlacePage } from "./PlacePage";
import { Scan } from "./Scan";
import { useBegin, useEnd, useLook, useSee } from "./useLook";

/** Look is walking round with the list: what is there, what is missing; and the page that a label's code opens. */
export default function Look({ round, revision }: { round: Round; revision: number }) {
  const [params, setParams] = useSearchParams();
  const place = params.get("place") ?? "";
  const open = (id: string) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      if (id === "") next.delete("place");
      else next.set("place", id);
      return next;
    });
  const look = useLook();
  return (
    <div className="round-scroll h-full overflow-y-auto px-4 py-3 text-body" tabIndex={0} role="region" aria-label="Look round">
      <Scan onPlace={open} />
      {place !== "" ? (
        <PlacePage key={place} id={place} round={round} revision={revision} onClose={() => open("")} />
      ) : look === undefined ? (
        <p className="text-quiet">Looking where you were …</p>
      ) : look.look && look.look.ended === "" ? (
        <Going look={look} round={round} revision={revision} />
      ) : (
        <Begin look={look} round={round} revision={revision} />
      )}
    </div>
  );
}

/** Begin is where a look starts, and what came of the last one. */
function Begin({ look, round, revision }: { look: LookRound; round: Round; revision: number }) {
  const [scope, setScope] = useState("");
  const begin = useBegin();
  if (round.items.every((i) => i.place === ""))
    return (
      <Empty title="Nothing has a home yet" act="Find homes" to="/first">
        Looking round is walking from place to place with the list: is everything where it lives?
      </Empty>
    );
  const walls = round.elevations.filter((e) => round.places.some((p) => round.elevations[p.elevation] === e));
  return (
    <>
      <Part title="Is everything where it lives?">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <Pick
            label="Where to look"
            value={scope}
            choices={[{ value: "", name: "the whole shop" }, ...walls.map((w) => ({ value: `${w.area}:${w.id}`, name: w.title }))]}
            onPick={setScope}
          />
          <Button kind="main" disabled={begin.isPending} onClick={() => begin.mutate(scope)}>
            Begin to look round
          </Button>
        </div>
        <p className="mt-1 text-small text-quiet">It can be left at any place and goes on from there, also on another device.</p>
      </Part>
      {look.look && look.look.ended !== "" && (
        <Part title={`The last time, ${day(look.look.ended.slice(0, 10))}`}>
          <Outcome look={look} round={round} revision={revision} />
        </Part>
      )}
    </>
  );
}

/** Outcome is what came of a look. */
function Outcome({ look, round, revision }: { look: LookRound; round: Round; revision: number }) {
  const o = look.outcome;
  const fine = o.missing.length + o.strayed.length + o.unknown.length + o.counted.length === 0;
  return (
    <div data-testid="outcome">
      <p className="m-0">
        {o.there === 1 ? "One thing was" : `${o.there} things were`} where they live
        {o.left > 0 && `; ${o.left === 1 ? "one place was" : `${o.left} places were`} not looked at`}.{" "}
        {fine && o.there > 0 && "Nothing is missing."}
      </p>
      {o.missing.length > 0 && (
        <ul className="m-0 mt-1 list-none p-0" aria-label="Missing">
          {o.missing.map((t) => (
            <li key={t.item + t.at} className="flex justify-between gap-3 border-b border-line py-1">
              <span>
                <b className="text-red">{t.name}</b> is missing from {t.at}
              </span>
              <span className="text-small text-quiet">{look.last[t.item] ? `last ${look.last[t.item]}` : "never noted since"}</span>
            </li>
          ))}
        </ul>
      )}
      {o.strayed.map((t) => (
        <p key={t.item} className="m-0 border-b border-line py-1">
          <b>{t.name}</b> lay in {t.found}, it lives in {t.home}
        </p>
      ))}
      {o.counted.map((t) => (
        <p key={t.item + t.place} className="m-0 border-b border-line py-1">
          <b>{t.name}</b>: {t.found} in {t.place}, {t.said} on the list{" "}
          <TakeOver item={t.item} change={t.found - t.said} round={round} revision={revision} />
        </p>
      ))}
      {o.unknown.map((t) => (
        <p key={t} className="m-0 border-b border-line py-1">
          not on the list: {t}
        </p>
      ))}
    </div>
  );
}

/** TakeOver has the list say what was counted. */
function TakeOver({ item, change, round, revision }: { item: string; change: number; round: Round; revision: number }) {
  const set = useSet();
  const now = round.items.find((i) => i.id === item)?.count;
  if (now === undefined || now + change < 1) return null;
  return (
    <Button
      disabled={set.isPending || set.isSuccess}
      onClick={() => set.mutate({ base: revision, ids: [item], field: "count", text: String(now + change) })}
    >
      {set.isSuccess ? "Taken over" : `There are ${now + change} then`}
    </Button>
  );
}

/** Going is a look place by place. */
function Going({ look, round, revision }: { look: LookRound; round: Round; revision: number }) {
  const phone = usePhone();
  // One stays at a place until one goes on, also when all of it has been looked for.
  const [at, setAt] = useState(() => look.stops.find((s) => !s.seen)?.place ?? "");
  const end = useEnd();
  const k = look.stops.findIndex((s) => s.place === at);
  const stop = look.stops[k];
  const next = () => setAt([...look.stops.slice(k + 1), ...look.stops.slice(0, k)].find((s) => !s.seen)?.place ?? "");
  const done = look.stops.filter((s) => s.seen).length;
  return (
    <div className={phone ? "" : "grid grid-cols-[minmax(0,1fr)_minmax(0,24rem)] gap-8"}>
      <div>
        <div className="flex items-baseline justify-between gap-4">
          <h1 className="m-0 text-head font-bold">
            {done} of {look.stops.length} places looked at
          </h1>
          <Button disabled={end.isPending} onClick={() => end.mutate(undefined)}>
            End it here
          </Button>
        </div>
        <div className="mt-1 h-1.5 bg-line" aria-hidden>
          <div className="h-full bg-blue" style={{ width: `${(100 * done) / Math.max(1, look.stops.length)}%` }} />
        </div>
        {stop ? (
          <At key={stop.place} stop={stop} round={round} onNext={next} />
        ) : (
          <p className="mt-3">
            Every place has been looked at.{" "}
            <Button kind="main" onClick={() => end.mutate(undefined)}>
              See what came of it
            </Button>
          </p>
        )}
        {!phone && (
          <ol className="m-0 mt-4 columns-3 list-none gap-4 p-0 text-small" aria-label="All places">
            {look.stops.map((s, i) => (
              <li key={s.place}>
                <button
                  className={`w-full truncate py-0.5 text-left hover:text-blue ${i === k ? "font-bold text-blue" : s.seen ? "text-quiet line-through" : ""}`}
                  onClick={() => setAt(s.place)}
                >
                  {s.place} {s.name}
                </button>
              </li>
            ))}
          </ol>
        )}
      </div>
      {!phone && stop && <Shadow stop={stop} round={round} revision={revision} />}
    </div>
  );
}

/** Shadow is the place with the outlines of what belongs there. */
function Shadow({ stop, round, revision }: { stop: LookStop; round: Round; revision: number }) {
  const place = round.places.find((p) => p.id === stop.place);
  return place ? <Inside place={place} round={round} revision={revision} /> : null;
}

/** At is one place with what lives there, each there, missing or elsewhere. */
function At({ stop, round, onNext }: { stop: LookStop; round: Round; onNext: () => void }) {
  const see = useSee();
  const [asked, setAsked] = useState("");
  const [strange, setStrange] = useState("");
  const open = stop.things.filter((t) => t.state === "");
  return (
    <div className="mt-3 border border-ink bg-sheet p-3" data-testid="stop">
      <p className="m-0 text-small text-quiet">{stop.wall}</p>
      <p className="m-0 text-head leading-tight font-bold">
        <span className="text-blue">{stop.place}</span> {stop.name}
      </p>
      {stop.photos.length > 0 && (
        <p className="mt-2 mb-0 flex gap-2">
          {stop.photos.map((name) => (
            <Thumb key={name} name={name} of={stop.name || stop.place} className="h-16 w-16" />
          ))}
        </p>
      )}
      <ul className="m-0 mt-2 list-none p-0">
        {stop.things.map((t) => (
          <li key={t.item} className="border-b border-line py-1 thumb:py-2">
            <div className="flex flex-wrap items-baseline justify-between gap-x-3">
              <span className={t.state === "missing" ? "font-semibold text-red" : ""}>
                {t.n > 1 ? `${t.n} × ${t.name}` : t.name}
                {t.out > 0 && <span className="text-small text-quiet"> ({t.out === t.n ? "out" : `${t.out} out`})</span>}
                {t.state === "there" && <span className="text-small text-blue"> there{t.found > 0 && `, ${t.found} counted`}</span>}
                {t.state === "missing" && <span className="text-small"> missing</span>}
                {t.state === "elsewhere" && <span className="text-small"> in {t.at}</span>}
              </span>
              {t.state !== "out" && (
                <span className="flex gap-3">
                  <Button onClick={() => see.mutate({ place: stop.place, items: [t.item], state: "there" })}>There</Button>
                  <Button onClick={() => see.mutate({ place: stop.place, items: [t.item], state: "missing" })}>Missing</Button>
                  <Button onClick={() => setAsked(asked === t.item ? "" : t.item)}>Other …</Button>
                </span>
              )}
            </div>
            {asked === t.item && (
              <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-small">
                <Pick
                  label="It is in"
                  value=""
                  choices={[{ value: "", name: "it is in …" }, ...round.places.map((p) => ({ value: p.id, name: `${p.id} ${p.name}` }))]}
                  onPick={(at) => {
                    if (at === "") return;
                    setAsked("");
                    see.mutate({ place: stop.place, items: [t.item], state: "elsewhere", at });
                  }}
                />
                <Labelled label="counted" width="w-40">
                  <TypedIn
                    value=""
                    onDone={(text) => {
                      const n = Math.round(Number(text));
                      if (!(n >= 1)) return;
                      setAsked("");
                      see.mutate({ place: stop.place, items: [t.item], state: "there", n });
                    }}
                    onTyped={() => undefined}
                    className="w-14 border-b border-line text-right"
                  />
                </Labelled>
              </div>
            )}
          </li>
        ))}
      </ul>
      {stop.unknown.map((u) => (
        <p key={u} className="m-0 text-small text-red">
          not on the list: {u}
        </p>
      ))}
      <form
        className="mt-2 flex items-baseline gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (strange.trim() === "") return;
          see.mutate({ place: stop.place, state: "unknown", what: strange.trim() }, { onSuccess: () => setStrange("") });
        }}
      >
        <span className="text-small text-quiet">something else lies here</span>
        <input
          aria-label="Something else lies here"
          value={strange}
          onChange={(e) => setStrange(e.target.value)}
          className="min-w-0 flex-1 border-b border-line bg-transparent"
        />
      </form>
      <p className="mt-3 mb-0 flex gap-4">
        <Button
          kind="main"
          disabled={see.isPending}
          onClick={() => {
            if (open.length === 0) onNext();
            else see.mutate({ place: stop.place, items: open.map((t) => t.item), state: "there" }, { onSuccess: onNext });
          }}
        >
          {open.length === 0 ? "Next place" : open.length === stop.things.length ? "All of it is there" : "The rest is there"}
        </Button>
      </p>
    </div>
  );
}
