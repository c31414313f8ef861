import { at } from "../api/base";
import { useEffect, useMemo, useRef, useState } from "react";
import { useLocation, useSearchParams } from "react-router";
import { useQueryClient } from "@tanstack/react-query";
import { api, keys, unwrap, type Dead, type Round, type Surveyed, type Verdict, onto } from "../api/client";
import { FreeTotals, RegionParts, ZoneParts } from "../free/FreeSheet";
import { depthsIn, useFree } from "../free/useFree";
import { useDone } from "../app/shop";
import { NoteLine } from "../note/NoteLine";
import { Part, Sheet } from "../sheet/Sheet";
import { AddLine, FixtureLine, WallPage } from "./Book";
import { CheckPage, closing, Fit } from "./Check";
import { Elevation } from "./Elevation";
import { Choice, Entry, Several } from "./Entry";
import { Meter } from "./Meter";
import { Plan } from "./Plan";
import { SurveyContext, useEnter, useNotes, useSurveyed } from "./useSurvey";
import { WillItGo } from "./WillItGo";
import { Choices } from "../ui/Choices";
import { OnOff } from "../ui/OnOff";
import { Hint } from "../ui/Hint";
import { sayReason } from "../reason";

/** Survey takes one wall after the other, clockwise from the main door. */
export default function Survey({
  round,
  freeShown,
  setFreeShown,
}: {
  round: Round;
  freeShown: boolean;
  setFreeShown: (on: boolean) => void;
}) {
  const [params, setParams] = useSearchParams();
  const first = round.plan.rooms[0]?.area ?? "main";
  const area = params.get("area") ?? first;
  const seen = useSurveyed(area);
  const set = (name: string, value: string) =>
    setParams(
      () => {
        const p = new URLSearchParams(window.location.search);
        p.set(name, value);
        if (name === "area") p.delete("page");
        return p;
      },
      { replace: true },
    );
  if (seen.isPending) return <p className="p-6 text-quiet">Opening the notes…</p>;
  if (seen.isError)
    return (
      <div className="p-6">
        <p className="text-red">{seen.error.message}</p>
        <button className="font-semibold text-blue" onClick={() => set("area", first)}>
          To the main area
        </button>
      </div>
    );
  return (
    <Opened
      key={area}
      area={area}
      data={seen.data}
      round={round}
      page={params.get("page") ?? "A"}
      set={set}
      freeShown={freeShown}
      setFreeShown={setFreeShown}
    />
  );
}

interface OpenedProps {
  area: string;
  data: Surveyed;
  round: Round;
  page: string;
  set: (name: string, value: string) => void;
  freeShown: boolean;
  setFreeShown: (on: boolean) => void;
}

function Opened({ area, data, round, page, set, freeShown, setFreeShown }: OpenedProps) {
  const sending = useEnter(area);
  const begun = (useLocation().state as { begun?: boolean } | null)?.begun === true;
  const [aim, setAim] = useState("");
  const context = useMemo(() => ({ area, data, aim, setAim, ...sending }), [area, data, aim, sending]);
  const [region, setRegion] = useState<{ wall: string; n: number }>();
  const [zone, setZone] = useState<number>();
  const [spot, setSpot] = useState<Verdict>();
  const book = useRef<HTMLDivElement>(null);
  const units = data.units;
  const free = useFree(freeShown)?.free;

  const steps = [...data.notes.walls.map((w) => w.id), "above", "below", "check"];
  const at = steps.includes(page) ? page : (steps[0] ?? "A");
  const go = (to: string) => {
    set("page", to);
    setRegion(undefined);
  };
  const follow = (by: number) => {
    const i = steps.indexOf(at) + by;
    const to = steps[Math.max(0, Math.min(steps.length - 1, i))];
    if (to) go(to);
  };

  // [ and ] turn the page, while nothing is typed.
  const turn = useRef(follow);
  useEffect(() => {
    turn.current = follow;
  });
  useEffect(() => {
    const on = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLElement && e.target.closest("input, [role=dialog]")) return;
      if (e.key === "[" || e.key === "]") turn.current(e.key === "[" ? -1 : 1);
    };
    window.addEventListener("keydown", on);
    return () => window.removeEventListener("keydown", on);
  }, []);

  const inOneLine = begun && data.report.measures.length === 0;
  // On a new page: the first number that is missing.
  const arrived = useRef("");
  useEffect(() => {
    if (arrived.current === at) return;
    arrived.current = at;
    if (inOneLine) return; // who has just begun says the room in one line first
    const all = [...(book.current?.querySelectorAll<HTMLInputElement>("input[data-path]") ?? [])];
    // The first two are about the area, not the page.
    const own = all.filter((i) => i.closest("[data-page]"));
    const to = own.find((i) => i.dataset.missing === "yes") ?? own[0] ?? book.current?.querySelector<HTMLInputElement>("input[data-add]");
    to?.focus();
    setAim(to?.dataset.path ?? ""); // a window in the background sends no focus event
  }, [at, inOneLine]);

  const notes = data.notes.walls.find((w) => w.id === at);
  const shownWall = data.walls.find((w) => w.id === at) ?? data.walls.find((w) => w.id === region?.wall) ?? data.walls[0];
  const freeWall = free?.walls.find((w) => w.area === area && w.id === shownWall?.id);
  const ceiling = free?.ceilings.find((c) => c.area === area);
  const chosen = region && freeWall?.id === region.wall ? freeWall.regions[region.n] : undefined;
  const chosenZone = zone !== undefined ? ceiling?.zones[zone] : undefined;
  const onDead = (d: Dead) => {
    setZone(undefined);
    if (d.area === area && d.wall) {
      go(d.wall);
    } else setSpot({ what: "turn", fits: true, needs: 0, has: 0, x: d.x, y: d.y, by: "", says: "" });
  };
  const things = area === round.plan.rooms[0]?.area ? round.plan.things : [];

  return (
    <SurveyContext.Provider value={context}>
      <div
        className="flex min-h-0 flex-1 gap-4 px-4 pt-2 pb-3 max-lg:flex-wrap max-lg:overflow-y-auto max-md:px-3"
        data-testid="survey"
        data-revision={data.revision}
      >
        <section className="flex w-101 shrink-0 flex-col max-lg:w-90 max-md:w-full" aria-label="Notes" data-book="yes" ref={book}>
          <Areas data={data} area={area} onArea={(id) => set("area", id)} />
          {data.report.measures.length === 0 && <InOneLine area={area} revision={data.revision} units={units} first={begun} />}
          <nav aria-label="Walk round the room" className="mt-2 flex items-stretch border-b border-ink">
            {steps.map((s) => {
              const w = data.notes.walls.find((x) => x.id === s);
              const name = { above: "Ceiling", below: "Floor", check: "Check" }[s] ?? s;
              return (
                <Hint key={s} says={w ? (w.done ? `wall ${s}: measured` : `wall ${s}: still to measure`) : name}>
                  <button
                    aria-current={at === s ? "step" : undefined}
                    onClick={() => go(s)}
                    className={`relative min-w-8 px-2 pt-1 pb-1.5 text-lead ${at === s ? "bg-ink font-bold text-paper" : "hover:bg-sheet"} ${w ? "flex-1" : "narrow text-small"}`}
                  >
                    {name}
                    {w && (
                      <span
                        aria-hidden
                        className={`absolute inset-x-1.5 bottom-0.75 h-0.75 ${w.done ? "bg-[var(--order-1)]" : "border border-dashed border-quiet"}`}
                      />
                    )}
                  </button>
                </Hint>
              );
            })}
          </nav>
          <div className="round-scroll min-h-0 flex-1 overflow-y-auto py-2.5 pr-1" tabIndex={-1} data-page="yes">
            {notes && <WallPage key={notes.id} wall={notes} onNext={() => follow(1)} onSplit={(to) => go(to || "A")} />}
            {at === "above" && <AbovePage />}
            {at === "below" && <BelowPage />}
            {at === "check" && <CheckPage units={units} />}
          </div>
        </section>
        <section
          className="flex min-w-0 flex-1 flex-col max-lg:min-h-[80dvh] max-lg:basis-80 max-md:min-h-[90dvh] max-md:basis-full"
          aria-label="Drawing"
        >
          <Plan
            data={data}
            units={units}
            wall={at}
            onWall={go}
            things={things}
            ceiling={freeShown ? ceiling : undefined}
            zone={zone}
            onZone={(z) => {
              setRegion(undefined);
              setZone(z);
            }}
            spot={spot}
          />
          {shownWall && (
            <Elevation
              wall={shownWall}
              notes={data.notes.walls.find((w) => w.id === shownWall.id)}
              units={units}
              free={freeShown ? freeWall : undefined}
              region={region?.n}
              onRegion={(n) => {
                setZone(undefined);
                setRegion({ wall: shownWall.id, n });
              }}
              aim={aim}
            />
          )}
          <div className="flex items-center gap-4 pt-1 text-small">
            <OnOff on={freeShown} onChange={setFreeShown}>
              Free space (3)
            </OnOff>
            {freeShown &&
              depthsIn(units).map((d) => (
                <span key={d.from} className="narrow flex items-center gap-1.5 whitespace-nowrap">
                  <span className="inline-block h-3 w-3" style={{ background: d.colour }} aria-hidden />
                  {d.label}
                </span>
              ))}
          </div>
        </section>
        <Sheet
          title={chosen ? "Free wall" : chosenZone ? "Free ceiling" : "What it comes to"}
          address={chosen ? freeWall?.id : undefined}
          sub={chosen || chosenZone ? "It cannot grow on any side." : closing(data, units)}
        >
          {chosen && <RegionParts region={chosen} units={units} />}
          {chosenZone && ceiling && <ZoneParts zone={chosenZone} units={units} note={ceiling.note} />}
          {(chosen || chosenZone) && (
            <button
              className="mt-3 self-start font-semibold text-blue hover:underline"
              onClick={() => {
                setRegion(undefined);
                setZone(undefined);
              }}
            >
              Back to the room
            </button>
          )}
          {!chosen && !chosenZone && (
            <>
              {at !== "check" && (data.report.fault || data.report.suspect || data.report.propose) && (
                <Part title="Does it close?">
                  <div data-book="yes">
                    <Fit units={units} />
                  </div>
                </Part>
              )}
              <Part title="Distance meter">
                <Meter imperial={units === "imperial"} />
              </Part>
              {freeShown && free && <FreeTotals free={free} units={units} onDead={onDead} />}
              <Part title="Will it go?">
                <WillItGo area={area} revision={data.revision} units={units} onSpot={setSpot} />
              </Part>
            </>
          )}
        </Sheet>
      </div>
    </SurveyContext.Provider>
  );
}

/** InOneLine takes the whole room in one line, as long as nothing of it is measured. */
function InOneLine({ area, revision, units, first }: { area: string; revision: number; units: Round["units"]; first: boolean }) {
  const client = useQueryClient();
  const done = useDone();
  const enter = async (text: string) => {
    const r = unwrap(
      await api.PUT("/api/v1/areas/{id}/outline", { params: { path: { id: area } }, headers: onto(revision), body: { text } }),
    );
    await client.invalidateQueries();
    done("The room is drawn. Go round it to see what is still assumed.", r);
  };
  return (
    <div className="mt-2">
      <NoteLine
        about="room"
        first={first}
        revision={revision}
        label="The room in one line"
        placeholder={
          units === "metric"
            ? "5.6 x 4.1 x 2.4, door A 850x1980 at 400, window C 1200x1000 at 1450 up 950"
            : "18' x 13' 6\" x 8', door A 32 x 80 at 12, window C 48 x 40 at 56 up 36"
        }
        hint="The room in one line: walls B and D first, then A and C, the height; doors, windows, studs, a chimney. Or go wall by wall below."
        onEnter={enter}
      />
    </div>
  );
}

/** Areas chooses the room the notes are about, and adds one. */
function Areas({ data, area, onArea }: { data: Surveyed; area: string; onArea: (id: string) => void }) {
  const client = useQueryClient();
  const { data: notes } = useNotes();
  const [adding, setAdding] = useState(false);
  const add = async (name: string) => {
    try {
      const made = unwrap(await api.POST("/api/v1/areas", { headers: onto(data.revision), body: { name } }));
      client.setQueryData(keys.survey(made.notes.area), made);
      setAdding(false);
      onArea(made.notes.area);
    } catch (e) {
      sayReason(e);
    }
  };
  const remove = async () => {
    try {
      unwrap(await api.DELETE("/api/v1/areas/{id}", { params: { path: { id: area } }, headers: onto(data.revision) }));
      onArea(data.areas[0]?.id ?? "main");
    } catch (e) {
      sayReason(e);
    }
  };
  const secondary = data.areas[0]?.id !== area;
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <Choices
          as="words"
          label="Areas"
          value={area}
          choices={data.areas.map((a) => ({ value: a.id, name: a.name || a.id }))}
          onPick={onArea}
        />
        {adding ? (
          <input
            autoFocus
            aria-label="Name of the new area"
            placeholder="shed, loft, carport …"
            className="w-40 border-b border-ink bg-transparent px-1 text-body placeholder:text-quiet"
            onBlur={() => setAdding(false)}
            onKeyDown={(e) => {
              if (e.key === "Enter" && e.currentTarget.value.trim() !== "") void add(e.currentTarget.value.trim());
              if (e.key === "Escape") setAdding(false);
            }}
          />
        ) : (
          <button className="text-small text-blue hover:underline" onClick={() => setAdding(true)}>
            Add an area
          </button>
        )}
        <span className="ml-auto text-small text-quiet">
          on paper{" "}
          <a
            className="font-semibold text-blue underline"
            href={at(`/api/v1/areas/${area}/sheet.pdf`)}
            target="_blank"
            rel="noreferrer"
            aria-label="Survey sheet as PDF"
          >
            PDF
          </a>{" "}
          <a
            className="font-semibold text-blue underline"
            href={at(`/api/v1/areas/${area}/sheet.svg`)}
            target="_blank"
            rel="noreferrer"
            aria-label="Survey sheet as SVG"
          >
            SVG
          </a>
        </span>
        {secondary && (
          <button className="text-small text-blue hover:underline" onClick={() => void remove()}>
            Remove this area
          </button>
        )}
      </div>
      <div className="grid grid-cols-2 gap-x-5">
        {secondary ? <Entry field={notes.notes.walk} label="walk there, seconds" /> : <Entry field={notes.notes.name} />}
        <Choice field={notes.notes.instrument} />
      </div>
    </div>
  );
}

function AbovePage() {
  const { data } = useNotes();
  return (
    <div className="flex flex-col gap-3">
      <div className="grid grid-cols-2 gap-x-5 gap-y-2">
        {data.notes.joists.map((f) => (f.choices.length > 0 ? <Choice key={f.path} field={f} wide /> : <Entry key={f.path} field={f} />))}
      </div>
      <p className="narrow text-small text-quiet">x runs to the right and y up the plan, from its lower left corner.</p>
      <ul className="m-0 flex list-none flex-col gap-2 p-0">
        {data.notes.above.map((t) => (
          <FixtureLine key={t.id} fixture={t} />
        ))}
      </ul>
      <AddLine kinds={data.notes.kinds.above} path="ceiling/features/+" onAdded={focusSoon} />
      <p className="border-l-2 border-red pl-2 text-small text-red">
        Where joists are, and what they carry, is for a qualified person to judge before anything heavy hangs there.
      </p>
    </div>
  );
}

function BelowPage() {
  const { data } = useNotes();
  return (
    <div className="flex flex-col gap-3">
      <div className="grid grid-cols-2 gap-x-5 gap-y-2">
        {data.notes.fall.map((f) => (f.choices.length > 0 ? <Choice key={f.path} field={f} /> : <Entry key={f.path} field={f} />))}
        <Choice field={data.notes.kind} wide />
        <Several field={data.notes.climate} />
      </div>
      <ul className="m-0 flex list-none flex-col gap-2 p-0">
        {data.notes.below.map((t) => (
          <FixtureLine key={t.id} fixture={t} />
        ))}
      </ul>
      <AddLine kinds={data.notes.kinds.below} path="floor/features/+" onAdded={focusSoon} />
    </div>
  );
}

/** focusSoon puts the cursor into the first number of what was just added, once it is drawn. */
function focusSoon(path: string) {
  const until = performance.now() + 2000;
  const look = () => {
    const first = document.querySelector<HTMLInputElement>(`input[data-path="${path}/x"]`);
    if (first) first.focus();
    else if (performance.now() < until) setTimeout(look, 20);
  };
  look();
}
