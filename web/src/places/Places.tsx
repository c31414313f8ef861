import clsx from "clsx";
import { useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { useQueryClient } from "@tanstack/react-query";
import { api, keys, onto, unwrap, type Designed, type Round, type Whereabout } from "../api/client";
import { NoteLine } from "../note/NoteLine";
import { useKept } from "../app/useKept";
import { useShown } from "../app/shown";
import { useMatching } from "../belongings/useList";
import { Part } from "../sheet/Sheet";
import { goToMiddle } from "../stage/view";
import { Empty } from "../ui/Empty";
import { Pick } from "../ui/Pick";
import { length, seconds, size, weight, type Units, percent } from "../units";
import { Plan } from "./Plan";
import { useBest, useDesigns, useInstall, useWhere, type Wish } from "./usePlaces";
import { Range } from "../ui/Range";
import { useDone } from "../app/shop";
import { Hint } from "../ui/Hint";

/** Proposed is where a design would go, for the stage to show. */
export interface Proposed {
  area: string;
  wall: string;
  x: number;
  z: number;
  w: number;
  h: number;
}

interface Props {
  round: Round;
  revision: number;
  onPropose: (p: Proposed | undefined) => void;
}

const wide = 400;

const noLimits = { width: "", height: "", depth: "", reserve: 15 };

/** few kinds are shown at first. */
const few = 5;

/** Places makes storage: from what it must hold, by kind, to the wall that suits it best. */
export default function Places({ round, revision, onPropose }: Props) {
  const units = round.units;
  const { select } = useShown();
  const [words, setWords] = useKept("wish words", "");
  const [family, setFamily] = useKept("wish family", "");
  const [limits, setLimits] = useKept("wish limits", noLimits);
  const [kind, setKind] = useKept<string | undefined>("wish kind", undefined);
  const [asked, setAsked] = useState(false);
  const [at, setAt] = useState<number>();
  const [all, setAll] = useState(false);
  const install = useInstall();
  const done = useDone();
  // Whoever was sent here sees what for.
  const [params, setParams] = useSearchParams();
  const hold = params.get("hold");
  useEffect(() => {
    if (!hold) return;
    setWords(hold);
    setFamily("");
    setParams(
      (p) => {
        p.delete("hold");
        return p;
      },
      { replace: true },
    );
  }, [hold, setWords, setFamily, setParams]);

  const families = useMemo(() => [...new Set(round.items.map((i) => i.family).filter(Boolean))].sort(), [round.items]);
  const matching = useMatching(round.items, words, revision);
  const wanted = useMemo(
    () => (words.trim() === "" && family === "" ? [] : (matching ?? []).filter((i) => family === "" || i.family === family)),
    [matching, words, family],
  );
  const wish: Wish = {
    items: wanted.map((i) => i.id),
    reserve: limits.reserve / 100,
    width: limits.width,
    height: limits.height,
    depth: limits.depth,
  };
  const designs = useDesigns(wish, revision);
  const list = wanted.length > 0 ? (designs.data ?? []) : [];
  const design = list.find((d) => d.kind.id === kind) ?? list[0];
  const shown = design ? (all ? list : list.slice(0, few)).concat(!all && !list.slice(0, few).includes(design) ? [design] : []) : [];
  const best = useBest(wish, asked ? [] : shown.map((d) => d.kind.id), revision);
  const where = useWhere(wish, design?.kind.id, revision, asked);
  const spots = asked ? where.data?.sites : undefined;

  const propose = (n: number | undefined, spot?: Whereabout) => {
    setAt(n);
    if (!spot || !design) return onPropose(undefined);
    if (spot.wall === "") return onPropose(undefined);
    onPropose({ area: spot.area, wall: spot.wall, x: spot.x, z: spot.z, w: design.w, h: design.h });
    const s = round.elevations.find((s) => s.area === spot.area && s.id === spot.wall && !s.middle);
    if (s) goToMiddle(s.offset + spot.x + design.w / 2);
  };
  const changed = () => {
    setAsked(false);
    propose(undefined);
  };
  const limit = (name: "width" | "height" | "depth", says: string) => (
    <label className="flex min-w-0 flex-1 items-baseline gap-1">
      <span className="narrow text-small text-quiet">{says}</span>
      <input
        value={limits[name]}
        onChange={(e) => {
          setLimits({ ...limits, [name]: e.target.value });
          changed();
        }}
        placeholder="usual"
        aria-label={`${name} at most`}
        aria-invalid={designs.isError || undefined}
        className="w-full min-w-0 border-b border-line bg-transparent px-1 text-right placeholder:text-quiet placeholder:italic"
      />
    </label>
  );

  return (
    <aside
      className="round-scroll flex w-100 shrink-0 flex-col gap-1 overflow-y-auto border border-line bg-sheet px-4 py-3 max-md:w-full max-md:overflow-visible"
      aria-label="Make a place"
      tabIndex={0}
      data-testid="places"
    >
      <Stated round={round} revision={revision} />
      {round.items.length === 0 && (
        <Empty title="Places are sized for what they hold" act="List what you own" to="/belongings">
          Say what a place should hold, and it is drawn to size with its rails, slots or shelves, and put on the wall where it saves most.
          For that, things have to be listed first.
        </Empty>
      )}
      <h2 className="text-head leading-tight font-bold">Make a place</h2>
      <div className="flex items-baseline gap-3">
        <input
          value={words}
          onChange={(e) => {
            setWords(e.target.value);
            changed();
          }}
          aria-label="What it should hold"
          placeholder="what should it hold? clamp, @lathe, homeless"
          className="min-w-0 flex-1 border-b border-ink bg-transparent px-1 py-0.5 text-lead placeholder:text-small placeholder:text-quiet"
        />
        <Pick
          label="Family"
          value={family}
          choices={[{ value: "", name: "any family" }, ...families.map((f) => ({ value: f, name: f }))]}
          onPick={(f) => {
            setFamily(f);
            changed();
          }}
        />
      </div>
      <p className="shrink-0 text-small text-quiet" aria-live="polite">
        {wanted.length === 0
          ? words.trim() !== "" && matching
            ? "Nothing in the list matches these words."
            : "Say what it should hold, in words or by family: the place follows from that."
          : `${wanted.length} things, ${wanted.reduce((n, i) => n + i.count, 0)} pieces: ${wanted
              .slice(0, 5)
              .map((i) => i.name)
              .join(", ")}${wanted.length > 5 ? " …" : ""}`}
      </p>
      {wanted.length > 0 && (
        <div className="flex flex-col gap-1">
          <div className="flex items-baseline gap-3">
            <span className="narrow text-small text-quiet">at most</span>
            {limit("width", "wide")}
            {limit("height", "high")}
            {limit("depth", "deep")}
          </div>
          <div className="flex items-center gap-2 text-small">
            <span className="narrow text-quiet">kept free to grow</span>
            <Range
              label="Kept free to grow"
              min={0}
              max={50}
              step={5}
              value={limits.reserve}
              says={`${limits.reserve} %`}
              onChange={(reserve) => {
                setLimits({ ...limits, reserve });
                changed();
              }}
            />
            <span className="w-10 text-right">{limits.reserve} %</span>
          </div>
        </div>
      )}
      {designs.isError && wanted.length > 0 && (
        <p role="alert" className="text-small text-red">
          {designs.error.message}
        </p>
      )}
      {design && (
        <>
          <table className={clsx("mt-1 w-full border-collapse text-small", asked && "hidden")} aria-label="Kinds that would hold it">
            <thead>
              <tr className="border-b border-ink text-left text-quiet">
                <th className="py-0.5 font-normal">kind</th>
                <th className="text-right font-normal">wide × high × deep</th>
                <th className="text-right font-normal">holds</th>
                <th className="text-right font-normal">
                  <Hint says="weekly handling of what it holds, at its best spot">
                    <button type="button" className="cursor-help">
                      a week
                    </button>
                  </Hint>
                </th>
              </tr>
            </thead>
            <tbody>
              {shown.map((d, i) => (
                <tr
                  key={d.kind.id}
                  className={clsx("border-b border-line/50", d.kind.id === design.kind.id && "bg-blue-wash font-semibold")}
                >
                  <td className="py-0.5">
                    <button
                      aria-pressed={d.kind.id === design.kind.id}
                      className="text-left hover:text-blue"
                      onClick={() => {
                        setKind(d.kind.id);
                        changed();
                      }}
                    >
                      {d.kind.title}
                    </button>
                  </td>
                  <td className="text-right whitespace-nowrap">{size([d.w, d.h, d.d], units).replace(" mm", "")}</td>
                  <td className={clsx("text-right whitespace-nowrap", d.holds < wanted.length && "text-red")}>
                    {d.holds} of {wanted.length}
                  </td>
                  <td className="w-19 text-right whitespace-nowrap">
                    {best[i]?.isSuccess ? (
                      best[i].data.sites[0] ? (
                        seconds(best[i].data.sites[0].seconds)
                      ) : (
                        <span className="text-red">no room</span>
                      )
                    ) : best[i]?.isError ? (
                      <span className="text-red">no</span>
                    ) : (
                      "…"
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {!asked && list.length > few && (
            <button className="self-start text-small font-semibold text-blue hover:underline" onClick={() => setAll(!all)}>
              {all ? "Fewer kinds" : `${list.length - few} more kinds`}
            </button>
          )}
          {!asked && <Made design={design} round={round} units={units} onPick={(id) => select({ kind: "item", id })} />}
          {asked && (
            <p className="border-t border-line pt-2">
              <b>{design.kind.title}</b> {size([design.w, design.h, design.d], units)}{" "}
              <button className="font-semibold text-blue hover:underline" onClick={changed}>
                back to its kinds
              </button>
            </p>
          )}
          <div className="sticky -bottom-3 -mb-3 bg-sheet pt-2 pb-3">
            {!asked ? (
              <button className="bg-blue px-3 py-1.5 font-bold text-sheet hover:brightness-110" onClick={() => setAsked(true)}>
                Where does it go?
              </button>
            ) : where.isError ? (
              <p role="alert" className="text-red">
                {where.error.message}
              </p>
            ) : !spots ? (
              <p className="text-quiet">Looking along the walls…</p>
            ) : (
              <button
                className="bg-blue px-3 py-1.5 font-bold text-sheet hover:brightness-110 disabled:opacity-50"
                disabled={at === undefined || install.isPending}
                onClick={() => {
                  const spot = at === undefined ? undefined : spots[at];
                  if (!spot) return;
                  install.mutate(
                    { base: revision, wish, kind: design.kind.id, spot },
                    {
                      onSuccess: (r) => {
                        done(`${r.ids[0]} is made, and ${design.pieces} pieces live there.`, r);
                        changed();
                        setWords("");
                        setFamily("");
                        setLimits(noLimits);
                        setKind(undefined);
                        select({ kind: "place", id: r.ids[1] ?? "" }, true);
                      },
                    },
                  );
                }}
              >
                {at === undefined ? "Choose a spot" : "Put it there"}
              </button>
            )}
          </div>
          {spots && (
            <Part title={spots.length > 0 ? "Best first" : "No free wall takes it"}>
              <ol className="m-0 list-none p-0" aria-label="Spots">
                {spots.map((s, i) => (
                  <li key={i}>
                    <button
                      aria-pressed={at === i}
                      className={clsx("w-full border-b border-line/50 px-1 py-1 text-left hover:text-blue", at === i && "bg-blue-wash")}
                      onClick={() => propose(i, s)}
                    >
                      <span className="flex justify-between gap-2">
                        <span>
                          <Spot spot={s} round={round} units={units} />
                        </span>
                        <span className="shrink-0">
                          {seconds(s.seconds)} <span className="text-small text-quiet">now {seconds(s.now)}</span>
                        </span>
                      </span>
                      <span className="block text-small text-quiet">
                        {s.band}
                        {s.over && `, over ${s.over}`}
                        {!s.from_floor &&
                          !s.station &&
                          !s.on &&
                          `, ${s.studs} ${s.ceiling ? "joists over it" : s.studs === 1 ? "stud behind" : "studs behind"}`}
                        , {length(s.depth, units)} {s.ceiling ? "down free" : "deep free"}
                      </span>
                      {[...s.barred, ...s.cautions].slice(0, at === i ? 9 : 1).map((c) => (
                        <span key={c} className="block text-small text-red">
                          {c}
                        </span>
                      ))}
                    </button>
                  </li>
                ))}
              </ol>
              {where.data && where.data.nowhere.length > 0 && (
                <div className="mt-1 text-small text-quiet">
                  {where.data.nowhere.map((n) => (
                    <p key={n.area + n.wall}>
                      <b>{n.wall}</b> {n.why}
                    </p>
                  ))}
                </div>
              )}
            </Part>
          )}
        </>
      )}
      {wanted.length > 0 && designs.isSuccess && list.length === 0 && (
        <p className="text-red">No kind of place holds these. Say in the list how they are held.</p>
      )}
    </aside>
  );
}

/** Made is one design: its drawing, what decided its size, what it cannot hold. */
function Made({ design: d, round, units, onPick }: { design: Designed; round: Round; units: Units; onPick: (id: string) => void }) {
  const name = (id: string) => round.items.find((i) => i.id === id)?.name ?? id;
  return (
    <div className="flex flex-col gap-1.5 border-t border-line pt-2" data-testid="design">
      <p>
        <b>{d.kind.title}</b>{" "}
        <span className="text-small text-quiet">
          {d.kind.about}. {d.pieces} {d.pieces === 1 ? "piece" : "pieces"}, {weight(d.kg, units)}, {percent(d.fill)} full, {d.spare} free
        </span>
      </p>
      <Plan layout={d.front} units={units} width={wide - 40} height={230} onPick={onPick} label={d.kind.title} />
      {d.parts.map((p) => (
        <div key={p.id}>
          <p className="text-small text-quiet">
            {p.id.replace("new-", "part ").replace("new", "inside")}, {p.layout.view}
          </p>
          <Plan layout={p.layout} units={units} width={wide - 40} height={170} onPick={onPick} label={p.id} />
        </div>
      ))}
      <ul className="m-0 list-none p-0 text-small">
        {d.rules.map((r) => (
          <li key={r}>{r}</li>
        ))}
        {d.cautions.map((c) => (
          <li key={c} className="text-red">
            Caution: {c}
          </li>
        ))}
        {d.left.slice(0, 6).map((l) => (
          <li key={l.item + l.why} className="text-red">
            {name(l.item)}: {l.why}
          </li>
        ))}
        {d.left.length > 6 && <li className="text-red">and {d.left.length - 6} more it cannot hold</li>}
      </ul>
    </div>
  );
}

/** Spot says where a spot is. */
export function Spot({ spot: s, round, units }: { spot: Whereabout; round: Round; units: Units }) {
  const left = `${length(s.x, units)} from the left`;
  if (s.on)
    return (
      <>
        <b className="text-blue">on {s.on}</b> {left}
        {s.z > 0 ? `, ${length(s.z, units)} up` : `, ${length(s.y, units)} from the front`}
      </>
    );
  if (s.station)
    return (
      <>
        <b className="text-blue">under {round.plan.stations.find((x) => x.id === s.station)?.name ?? s.station}</b> {left}
      </>
    );
  if (s.ceiling)
    return (
      <>
        <b className="text-blue">ceiling</b> {left}, {length(s.ceiling[1] ?? 0, units)} from below on the plan
      </>
    );
  return (
    <>
      <b className="text-blue">{s.wall}</b> {left}
      {s.from_floor ? ", on the floor" : `, ${length(s.z, units)} up`}
    </>
  );
}

/** Stated takes storage that is there already, a line each; it is empty until things are said to be in it. */
function Stated({ round, revision }: { round: Round; revision: number }) {
  const client = useQueryClient();
  const done = useDone();
  const { select } = useShown();
  const enter = async (text: string) => {
    const r = unwrap(await api.POST("/api/v1/places/stated", { headers: onto(revision), body: { text } }));
    await client.invalidateQueries({ queryKey: keys.round });
    const id = r.ids[0] ?? "";
    done(r.blocked === "" ? `${id} is there now.` : `${id} is there now, but ${r.blocked}.`, r);
    select({ kind: "place", id: `${id}-1` }, true);
  };
  return (
    <section aria-labelledby="there-already">
      <h2 id="there-already" className="mb-1 text-head leading-tight font-bold">
        Storage you have already
      </h2>
      <NoteLine
        about="place"
        first={round.items.length === 0 || round.places.length === 0 || round.items.every((i) => i.homed === 0)}
        revision={revision}
        label="Storage that is there, a line each"
        placeholder={
          round.units === "metric" ? "shelving 1000x2000x450 5 shelves wall B 4.6m" : "shelving 40 x 78 x 18 in 5 shelves wall B 15'"
        }
        hint="shelving, drawers, cabinet, cart, crate, pegboard, cleat rails, rail, shelf, ceiling rack, lumber rack"
        onEnter={enter}
      />
    </section>
  );
}
