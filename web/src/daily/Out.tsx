import { useState } from "react";
import type { GatherRound, Needed, OutNow, Round } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { useShown } from "../app/shown";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Empty } from "../ui/Empty";
import { Pick } from "../ui/Pick";
import { printLists } from "../ui/printLists";
import { Tickbox } from "../ui/Tickbox";
import { day, metres, seconds, type Units } from "../units";
import { Guards } from "./Guards";
import { Habits } from "./Habits";
import { Lies } from "./Lies";
import { Kits } from "./Kits";
import { forget, useWaiting } from "./press";
import { all, pieces } from "./words";
import { useClosing, useGather, useNeeded, useOut, useTap } from "./useDaily";

/** Out is what is out of its home, what is fetched together, and the round in the evening. */
export default function Out({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const out = useOut();
  const taken = (out ?? []).filter((o) => o.what === "taken");
  const lent = (out ?? []).filter((o) => o.what === "lent");
  return (
    <div className="round-scroll h-full overflow-y-auto px-4 py-3 text-body" tabIndex={0} role="region" aria-label="Out">
      <Waiting />
      <div className={phone ? "" : "grid grid-cols-[minmax(0,1fr)_minmax(0,27rem)] gap-8"}>
        <div>
          <Guards round={round} revision={revision} />
          {out && out.length === 0 && (
            <Empty title="Everything is in its home">
              What you take with the button on its sheet, or with Shift Enter in the find field, stands here until it is back. So does what
              is lent, with whom and until when.
            </Empty>
          )}
          {taken.length > 0 && (
            <Part title={taken.length === 1 ? "One thing is out" : `${taken.length} are out`}>
              <List out={taken} back="put-back" verb="Put back" round={round} revision={revision} />
            </Part>
          )}
          {lent.length > 0 && (
            <Part title={lent.length === 1 ? "One is lent" : `${lent.length} are lent`}>
              <List out={lent} back="returned" verb="It came back" round={round} revision={revision} />
            </Part>
          )}
          {round.items.length > 0 && <Together round={round} revision={revision} />}
          {round.items.length > 0 && <Habits round={round} revision={revision} />}
        </div>
        <div>
          <Closing round={round} revision={revision} />
        </div>
      </div>
    </div>
  );
}

/** since is when something left, in words. */
const since = (o: OutNow) => (o.days === 0 ? "since today" : o.days === 1 ? "since yesterday" : `for ${o.days} days`);

function List({
  out,
  back,
  verb,
  round,
  revision,
}: {
  out: readonly OutNow[];
  back: "put-back" | "returned";
  verb: string;
  round: Round;
  revision: number;
}) {
  const tap = useTap();
  const [asked, setAsked] = useState<number>();
  const { select } = useShown();
  return (
    <>
      <ul className="m-0 list-none p-0">
        {out.map((o) => (
          <li key={o.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1 thumb:py-2">
            <button
              className="min-w-0 flex-1 text-left hover:text-blue"
              onClick={() => o.item && select({ kind: "item", id: o.item }, true)}
            >
              <b>{pieces(o) > 1 ? `${o.n} × ${o.name}` : o.name}</b>
              <span className={`block text-small ${o.overdue ? "font-semibold text-red" : "text-quiet"}`}>
                {[o.to ? `${o.to} has ${pieces(o) > 1 ? "them" : "it"}` : (o.on ?? ""), since(o)].filter((t) => t !== "").join(", ")}
                {o.due && (o.overdue ? `, was to be back ${day(o.due)}` : `, back by ${day(o.due)}`)}
                {o.note && ` · ${o.note}`}
              </span>
              {o.caution && o.what === "lent" && <span className="block text-small text-red">{o.caution}</span>}
            </button>
            <span className="narrow shrink-0 font-bold text-blue">{o.home || "no home"}</span>
            <Button onClick={() => void tap({ what: back, items: all([o]), to: back === "returned" ? o.to : undefined }, `${o.name} back`)}>
              {verb}
            </Button>
            {back === "put-back" && <Button onClick={() => setAsked(asked === o.id ? undefined : o.id)}>It is at …</Button>}
            {asked !== undefined && asked === o.id && <Lies out={o} round={round} revision={revision} onDone={() => setAsked(undefined)} />}
          </li>
        ))}
      </ul>
      {out.length > 1 && back === "put-back" && (
        <p className="mt-2">
          <Button kind="main" onClick={() => void tap({ what: back, items: all(out) }, `${out.length} things put back`)}>
            All of it is back
          </Button>
        </p>
      )}
    </>
  );
}

/** Waiting is what was pressed while the shop's machine was out of reach, and what was refused when it came. */
function Waiting() {
  const { waiting, refused } = useWaiting();
  if (waiting.length === 0 && refused.length === 0) return null;
  return (
    <div className="mb-2 border border-line bg-sheet px-3 py-2" role="status">
      {waiting.length > 0 && (
        <p className="m-0">
          {waiting.length === 1 ? "One press waits" : `${waiting.length} presses wait`} on this device until the shop's machine answers:{" "}
          {waiting
            .slice(0, 3)
            .map((p) => p.words)
            .join("; ")}
          {waiting.length > 3 && " …"}
        </p>
      )}
      {refused.map((r) => (
        <p key={r.press.key} className="m-0 text-red">
          {r.press.words}: {r.why} <Button onClick={() => forget(r.press.key)}>Understood</Button>
        </p>
      ))}
    </div>
  );
}

/** Closing is the evening: one walk with what goes back and what must be off. */
function Closing({ round, revision }: { round: Round; revision: number }) {
  const walk = useClosing(revision);
  const today = new Date().toDateString();
  const [ticked, setTicked] = useKept<{ day: string; ids: string[] }>("closing", { day: today, ids: [] });
  const tap = useTap();
  const done = ticked.day === today ? ticked.ids : [];
  if (!walk) return null;
  const chores = walk.trips.flatMap((t) => t.stops.flatMap((s) => s.chores));
  const toggle = (id: string, on: boolean) => setTicked({ day: today, ids: on ? [...done, id] : done.filter((x) => x !== id) });
  return (
    <Part title="Before you leave">
      <p className="m-0 text-small text-quiet">
        {walk.metres >= 1 ? `One walk of ${metres(walk.metres, round.units)}, about ${seconds(walk.seconds)} on foot.` : "In one walk."}{" "}
        {chores.length > 0 && `${chores.filter((c) => done.includes(c.id)).length} of ${chores.length} looked at.`}
      </p>
      <Walk
        walk={walk}
        units={round.units}
        done={done}
        onTick={toggle}
        onBack={(item, n, name) => void tap({ what: "put-back", items: [{ item, n }] }, `${name} put back`)}
      />
      <p className="mt-2">
        <Button onClick={printLists}>Print it</Button>
      </p>
      <div data-printed className="hidden print:block">
        <h2 className="text-head font-bold">Before you leave</h2>
        <ol className="list-none p-0">
          {walk.trips.flatMap((t) =>
            t.stops.flatMap((s, k) => [
              ...s.things.map((x) => (
                <li key={`${t.area} ${k} ${x.item}`} className="border-b border-line py-1">
                  ☐ {x.n > 1 ? `${x.n} × ${x.name}` : x.name} to {s.place}
                </li>
              )),
              ...s.chores.map((c) => (
                <li key={c.id} className="border-b border-line py-1">
                  ☐ {c.says}
                </li>
              )),
            ]),
          )}
        </ol>
        <p className="text-small">The usual caution; your local rules and the makers' instructions come first.</p>
      </div>
    </Part>
  );
}

/** Walk is a round stop by stop. */
function Walk({
  walk,
  units,
  done,
  onTick,
  onBack,
}: {
  walk: GatherRound;
  units: Units;
  done?: readonly string[];
  onTick?: (id: string, on: boolean) => void;
  onBack?: (item: string, n: number, name: string) => void;
}) {
  return (
    <>
      {walk.trips.map((t) => (
        <div key={t.area}>
          {walk.trips.length > 1 && <h4 className="mt-2 mb-0 text-body font-semibold">{t.name}</h4>}
          <ol className="m-0 list-none p-0">
            {t.stops.map((s, i) => (
              <li key={i} className="flex gap-3 border-b border-line py-1 thumb:py-2">
                {s.place !== "" && <span className="narrow w-14 shrink-0 font-bold text-blue">{s.place}</span>}
                <span className="min-w-0 flex-1">
                  {s.things.map((x) => (
                    <span key={x.item} className="flex items-baseline justify-between gap-2">
                      <span>{x.n > 1 ? `${x.n} × ${x.name}` : x.name}</span>
                      {onBack && <Button onClick={() => onBack(x.item, x.n, x.name)}>Back</Button>}
                    </span>
                  ))}
                  {s.chores.map((c) => (
                    <Tickbox key={c.id} on={done?.includes(c.id) ?? false} onChange={(on) => onTick?.(c.id, on)}>
                      <span className={`inline-block first-letter:uppercase ${c.caution && !done?.includes(c.id) ? "text-red" : ""}`}>
                        {c.says}
                      </span>
                    </Tickbox>
                  ))}
                </span>
                <span className="narrow shrink-0 text-small text-quiet">{s.metres >= 0.5 ? metres(s.metres, units) : ""}</span>
              </li>
            ))}
          </ol>
        </div>
      ))}
      {walk.homeless.length > 0 && (
        <p className="m-0 text-small text-red">Without a home to go to: {walk.homeless.map((x) => x.name).join(", ")}.</p>
      )}
    </>
  );
}

/** Together is what is fetched for a task, in the order of the shortest walk. */
function Together({ round, revision }: { round: Round; revision: number }) {
  const needed = useNeeded(revision) ?? [];
  const [of, setOf] = useKept("fetched together", "");
  const [making, setMaking] = useState(false);
  const known = needed.find((n) => `${n.of}:${n.id}` === of);
  const walk = useGather(known ? of : "", revision);
  const tap = useTap();
  const take = (n: Needed) =>
    void tap(
      n.of === "kit"
        ? { what: "taken", kits: [n.id], on: n.name }
        : { what: "taken", items: n.items, on: n.of === "station" ? n.name : undefined },
      `${n.name}: taken`,
    );
  const back = (n: Needed) => void tap({ what: "put-back", kits: [n.id] }, `${n.name}: put back`);
  return (
    <Part title="What do I need for …">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Pick
          label="What for"
          value={known ? of : ""}
          choices={[
            { value: "", name: "choose a kit, a station or a project" },
            ...needed.map((n) => ({
              value: `${n.of}:${n.id}`,
              name: n.of === "kit" ? `kit: ${n.name}` : n.of === "project" ? `project: ${n.name}` : n.name,
            })),
          ]}
          onPick={(v) => {
            setOf(v);
            setMaking(false);
          }}
        />
        <Button onClick={() => setMaking(!making)}>{making ? "Leave it" : known?.of === "kit" ? "Change the kit" : "Make a kit"}</Button>
      </div>
      {making && (
        <Kits
          key={of}
          round={round}
          revision={revision}
          kit={known?.of === "kit" ? known : undefined}
          taken={needed.filter((n) => n.of === "kit").map((n) => n.id)}
          from={known}
          onDone={(id) => {
            setMaking(false);
            setOf(id === "" ? "" : `kit:${id}`);
          }}
        />
      )}
      {known && !making && walk && (
        <div className="mt-1">
          <p className="m-0 text-small text-quiet">
            {known.items.length === 1 ? "One thing" : `${known.items.length} things`}
            {walk.metres >= 1 && `, a walk of ${metres(walk.metres, round.units)}`}
            {known.drops.length > 0 &&
              `; put down at ${known.drops.map((d) => round.plan.stations.find((s) => s.id === d)?.name ?? d).join(", then ")}`}
            {known.gone.length > 0 && `; ${known.gone.length} of it are gone`}
          </p>
          {known.notes !== "" && <p className="m-0">{known.notes}</p>}
          <Walk walk={walk} units={round.units} />
          <p className="mt-2 flex gap-4">
            <Button kind="main" onClick={() => take(known)}>
              Take it all
            </Button>
            {known.of === "kit" && <Button onClick={() => back(known)}>Put the kit back</Button>}
          </p>
        </div>
      )}
    </Part>
  );
}
