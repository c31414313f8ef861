import { Link } from "react-router";
import { Mind } from "../supply/Mind";
import { Circuits } from "../supply/Circuits";
import { useSupply } from "../supply/useSupply";
import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import { api, keys, onto, unwrap, type Arrangement, type FloorLayout, type Round, type Station } from "../api/client";
import { useDone } from "../app/shop";
import { useKept } from "../app/useKept";
import { NoteLine } from "../note/NoteLine";
import { Part, Sheet } from "../sheet/Sheet";
import { Ask } from "../ui/Ask";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Empty } from "../ui/Empty";
import { Pick } from "../ui/Pick";
import { TypedIn } from "../ui/TypedIn";
import { fixed, length, seconds, typedLength, weight } from "../units";
import { Arrange } from "./Arrange";
import { ChangeOver, type Played } from "./ChangeOver";
import { FloorPlan, type Tried } from "./FloorPlan";
import { InMode } from "./InMode";
import { Flow, Judge, useJudged } from "./Judge";
import { About, Modes } from "./Modes";
import { Needs } from "./Needs";
import { today } from "../day";
import { More } from "../ui/More";
import { SetsOff } from "./SetsOff";
import { Takes, useTakes } from "./Takes";
import {
  middleOf,
  said,
  useChangeStation,
  useLayouts,
  useMoveStation,
  useRemoveStation,
  useSetSpot,
  useStationAsItem,
  useStations,
} from "./useFloor";

/** Floor is where the benches and machines are listed, put on the floor and moved. */
export function Floor({ round, revision }: { round: Round; revision: number }) {
  const stations = useStations(revision);
  const client = useQueryClient();
  const done = useDone();
  const move = useMoveStation();
  const [chosen, setChosen] = useState<string>();
  const setSpot = useSetSpot();
  const [trial, setTrial] = useState<Tried>();
  const [params, setParams] = useSearchParams();
  const layouts = useLayouts(revision);
  const layout = layouts?.find((l) => l.mode === (params.get("mode") ?? round.mode)) ?? layouts?.[0];
  const mode = layout?.mode ?? "";
  const pick = (id: string) =>
    setParams(
      () => {
        const next = new URLSearchParams(window.location.search);
        next.set("mode", id);
        return next;
      },
      { replace: true },
    );
  const [task, setTask] = useKept<Task>("floor task", "stations");
  const [job, setJob] = useState(0);
  const [proposed, setProposed] = useState<Arrangement>();
  const [played, setPlayed] = useState<Played>();
  const judging = task === "judge" || task === "flow";
  const judged = useJudged(mode, revision, judging);
  const legs = task === "flow" ? (judged?.flows[job]?.legs.map((l) => l.path) ?? []) : [];
  const supplied = useSupply("", mode, revision, [0, 0], task === "supply").data;
  const leads =
    task === "supply" && supplied ? supplied.plugs.map((p) => ({ path: p.path, bad: p.crossing > 0 || p.need > p.have + 50 })) : none;
  const lux = task === "supply" && supplied ? supplied.lit : noLight;
  const shape = layout?.shapes.find((s) => s.id === chosen);
  const station = stations?.find((s) => s.id === chosen);
  const ways = useTakes(station, mode, "", revision).data?.ways;

  const enter = async (line: string) => {
    const r = unwrap(await api.POST("/api/v1/stations", { headers: onto(revision), body: { line } }));
    await client.invalidateQueries({ queryKey: keys.round });
    setChosen(r.ids[0]);
    done(said(r), r);
  };
  const imperial = round.units === "imperial";
  return (
    <div
      className="flex min-h-0 flex-1 gap-4 px-4 pt-3 pb-3 max-lg:flex-wrap max-lg:overflow-y-auto max-md:px-3"
      data-testid="floor-screen"
    >
      <section className="flex w-101 shrink-0 flex-col gap-2 max-lg:w-90 max-md:w-full" aria-label="Stations">
        <NoteLine
          about="station"
          first
          revision={revision}
          label="One bench or machine a line"
          placeholder={imperial ? "table saw 32 x 30 x 34 in wheels 15A wall B" : "table saw 800x750x860 wheels 9A wall B"}
          hint="Enter puts it where it stands best, or where you say"
          onEnter={enter}
        />
        {stations?.length === 0 && (
          <Empty
            title="Where the work is done"
            act="Type the first one"
            onAct={() => document.querySelector<HTMLInputElement>("[data-note=station]")?.focus()}
          >
            List benches and machines, one a line. Each is put where the floor is free and the ways are short; from where you stand at them
            Hobrak works out how far every thing is to fetch.
          </Empty>
        )}
        <Choices as="words" label="What is looked at" value={task} choices={tasks} onPick={setTask} />
        {task === "change" && <ChangeOver revision={revision} units={round.units} now={round.mode} onStep={setPlayed} />}
        {task === "arrange" && layouts && (
          <Arrange stations={stations ?? []} layouts={layouts} mode={mode} revision={revision} units={round.units} onShow={setProposed} />
        )}
        {task === "flow" && (
          <Flow judged={judged} round={round} stations={stations ?? []} revision={revision} shown={job} onShow={setJob} />
        )}
        {task === "supply" && (
          <div className="round-scroll min-h-0 flex-1 overflow-y-auto" data-testid="floor-supply">
            {supplied ? (
              <>
                <Mind room={supplied} onChoose={setChosen} />
                <Circuits room={supplied} />
                <p className="m-0 mt-2 text-small text-quiet">
                  Blue: cords that get there. Red: too short, or across a way. Under a name: lux in the evening, red where it is too dark.
                  More of it on <Link to="/supply">Supply</Link>.
                </p>
              </>
            ) : (
              <p className="m-0 text-quiet">Working out what the room gives …</p>
            )}
          </div>
        )}
        {task === "judge" && <Judge judged={judged} units={round.units} />}
        {task === "stations" && (
          <ul className="round-scroll m-0 min-h-0 flex-1 list-none overflow-y-auto p-0" aria-label="Stations listed">
            {stations?.map((s) => (
              <li key={s.id}>
                <button
                  aria-pressed={chosen === s.id}
                  onClick={() => setChosen(chosen === s.id ? undefined : s.id)}
                  className={`flex w-full items-baseline gap-2 border-b border-line px-1 py-1 text-left text-body thumb:min-h-11 ${chosen === s.id ? "bg-sheet font-bold" : "hover:bg-sheet"}`}
                >
                  <span className="min-w-0 flex-1 truncate">{s.name}</span>
                  <span className={`narrow text-small text-quiet ${(s.assumed ?? []).length > 0 ? "italic" : ""}`}>
                    {[s.w, s.d, s.h].map((v) => length(v, round.units)).join(" × ")}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        )}
        {task === "stations" && (
          <p className="m-0 text-small text-quiet">Slanted sizes are assumed until you type them. Width × depth × height of the table.</p>
        )}
      </section>
      <section className="flex min-w-0 flex-1 flex-col max-lg:min-h-[60dvh] max-lg:basis-80 max-md:basis-full" aria-label="Drawing">
        {layouts && layout && (
          <>
            <Modes
              layouts={layouts}
              corners={round.plan.rooms[0]?.corners ?? []}
              mode={mode}
              now={round.mode}
              revision={revision}
              onPick={pick}
            />
            <FloorPlan
              round={round}
              layout={layout}
              stations={stations ?? []}
              chosen={chosen}
              ways={station?.feed ? (ways ?? []) : []}
              legs={legs}
              leads={leads}
              lux={lux}
              proposed={task === "arrange" ? proposed : undefined}
              played={task === "change" ? played : undefined}
              onChoose={setChosen}
              onMove={(id, floor, rot) =>
                mode === ""
                  ? move.mutate({ base: revision, id, to: { floor, rot } })
                  : setSpot.mutate({ base: revision, mode, thing: id, to: { floor, rot } })
              }
              onTrial={setTrial}
            />
          </>
        )}
        <p className="m-0 min-h-6 text-small" aria-live="polite" data-testid="trial">
          {trial ? (
            <Trial trial={trial} />
          ) : (
            <span className="text-quiet">
              {mode === ""
                ? "Drag a station, or choose it and use the arrows; r turns it. The thick side is its front; the darker, the higher."
                : `What rolls or folds has a spot of its own while it is ${layout?.name ?? ""}: drag it there.`}
            </span>
          )}
        </p>
        {layout && <About key={mode} layout={layout} now={round.mode} revision={revision} units={round.units} onGone={() => pick("")} />}
      </section>
      {station && (
        <StationSheet
          key={station.id}
          station={station}
          layout={layout}
          all={stations ?? []}
          round={round}
          revision={revision}
          onClose={() => setChosen(undefined)}
        />
      )}
      {!station && shape && layout && mode !== "" && (
        <Sheet title={shape.name} address={shape.id} onClose={() => setChosen(undefined)} live>
          <InMode shape={shape} station={undefined} layout={layout} revision={revision} />
        </Sheet>
      )}
    </div>
  );
}

/** Trial says what a spot would do while a station is held over it. */
function Trial({ trial }: { trial: Tried }) {
  const change = trial.more;
  return (
    <>
      {trial.blocked !== "" && <b className="text-red">{trial.blocked}</b>}
      {trial.blocked !== "" && trial.allowed && change !== undefined && "; "}
      {trial.blocked === "" && change === undefined && "nothing is in the way there"}
      {trial.allowed &&
        change !== undefined &&
        (Math.abs(change) < 0.5
          ? "costs nothing more a week"
          : change > 0
            ? `${seconds(change)} more a week to fetch and put back`
            : `${seconds(-change)} less a week to fetch and put back`)}
    </>
  );
}

type Task = "stations" | "change" | "arrange" | "flow" | "judge" | "supply";

const none: { path: number[][]; bad: boolean }[] = [];
const noLight: { station: string; evening: number; wants: number }[] = [];

const tasks = [
  { value: "stations", name: "Stations" },
  { value: "change", name: "Change over" },
  { value: "arrange", name: "Arrange" },
  { value: "flow", name: "Flow" },
  { value: "judge", name: "Judge" },
  { value: "supply", name: "Supply" },
] as const;

const moves = [
  { value: "fixed", name: "fixed" },
  { value: "rolls", name: "rolls" },
  { value: "folds", name: "folds" },
  { value: "hangs", name: "hangs up" },
] as const;

const rollsOn = [
  { value: "", name: "casters not known" },
  { value: "locking", name: "they lock" },
  { value: "plain", name: "no locks" },
] as const;

// What is fed through a machine: the room it asks for, and what the machine itself takes.
const fed = [
  ["in", "free before"],
  ["out", "free behind"],
  ["wide", "takes wide"],
  ["thick", "takes thick"],
] as const;

/** Field is something that can be typed, with what it is. */
const Field = ({ label, children }: { label: string; children: ReactNode }) => (
  <label className="flex items-baseline gap-2">
    <span className="narrow w-15.5 shrink-0 text-quiet">{label}</span>
    {children}
  </label>
);

/** StationSheet is one station: its size, how it can be moved, where it goes. */
function StationSheet({
  station: s,
  layout,
  all,
  round,
  revision,
  onClose,
}: {
  station: Station;
  layout: FloorLayout | undefined;
  all: readonly Station[];
  round: Round;
  revision: number;
  onClose: () => void;
}) {
  const change = useChangeStation();
  const move = useMoveStation();
  const remove = useRemoveStation();
  const keep = useStationAsItem();
  const [instead, setInstead] = useState("");
  const shape = layout?.shapes.find((x) => x.id === s.id);
  const used = round.items.filter((i) => i.used_at.includes(s.id)).length;
  const week = round.plan.stations.find((x) => x.id === s.id)?.seconds ?? 0;
  const walls = round.elevations.filter((e) => !e.middle && e.area === (s.area ?? round.elevations[0]?.area));
  const turn = (by: number) => move.mutate({ base: revision, id: s.id, to: { floor: [s.x, s.y], rot: ((s.rot ?? 0) + by + 360) % 360 } });
  const sizes = [
    ["w", "wide"],
    ["d", "deep"],
    ["h", "table"],
    ["tall", "overall"],
  ] as const;
  return (
    <Sheet
      title={s.name}
      sub={`${s.kind.replaceAll("-", " ")}, middle at ${middleOf(s)
        .map((v) => length(v, round.units))
        .join(", ")}`}
      onClose={onClose}
      live
    >
      <Part title="Facts">
        <div className="flex flex-col gap-0.5 text-small">
          <Field label="name">
            <TypedIn
              key={s.name}
              value={s.name}
              onDone={(name) => change.mutate({ base: revision, id: s.id, change: { name } })}
              onTyped={change.reset}
              className="border-b border-line"
            />
          </Field>
          {sizes.map(([f, label]) => (
            <Field key={f} label={label}>
              <TypedIn
                key={s[f] ?? 0}
                value={s[f] ? typedLength(s[f], round.units) : ""}
                onDone={(text) => change.mutate({ base: revision, id: s.id, change: { typed: { [f]: text } } })}
                onTyped={change.reset}
                className={`border-b border-line ${(s.assumed ?? []).includes(f) ? "text-quiet italic" : ""}`}
              />
            </Field>
          ))}
          <Field label="weighs">
            <TypedIn
              key={s.kg ?? 0}
              value={s.kg ? weight(s.kg, round.units) : ""}
              onDone={(text) => change.mutate({ base: revision, id: s.id, change: { typed: { kg: text === "" ? "0 kg" : text } } })}
              onTyped={change.reset}
              className={`border-b border-line ${(s.assumed ?? []).includes("kg") ? "text-quiet italic" : ""}`}
            />
          </Field>
          <Field label="draws, A">
            <TypedIn
              key={s.amps ?? 0}
              value={s.amps ? fixed(s.amps, 1) : ""}
              onDone={(text) => {
                const amps = Number(text.replace(",", "."));
                if (Number.isFinite(amps)) change.mutate({ base: revision, id: s.id, change: { amps } });
              }}
              onTyped={change.reset}
              className={`border-b border-line ${(s.assumed ?? []).includes("amps") ? "text-quiet italic" : ""}`}
            />
          </Field>
        </div>
        {s.feed && (
          <More title="What is fed through it">
            {fed.map(([f, label]) => (
              <Field key={f} label={label}>
                <TypedIn
                  key={s.feed?.[f] ?? 0}
                  value={s.feed?.[f] ? typedLength(s.feed[f], round.units) : ""}
                  onDone={(text) => change.mutate({ base: revision, id: s.id, change: { typed: { [f]: text === "" ? "0" : text } } })}
                  onTyped={change.reset}
                  className="border-b border-line"
                />
              </Field>
            ))}
          </More>
        )}
        <Field label="wished until">
          <TypedIn
            key={s.wished ?? ""}
            value={s.wished ?? ""}
            onDone={(wished) => change.mutate({ base: revision, id: s.id, change: { wished } })}
            onTyped={change.reset}
            className="border-b border-line"
          />
        </Field>
        {s.wished ? (
          <p className={`m-0 text-small ${s.wished < today() ? "text-red" : "text-quiet"}`}>
            {s.wished < today()
              ? "That day is past: take the day away if it is here, give it another, or remove it."
              : "It is only wished for: it holds its place and takes part in nothing until the day is taken away."}
          </p>
        ) : null}
        {s.wished ? (
          <span className="flex items-baseline gap-1">
            it waits for
            <Pick
              label="What it waits for"
              value={s.when ?? ""}
              choices={[
                { value: "", name: "nothing but me" },
                { value: "circuit", name: "a circuit that carries it" },
                { value: "next-room", name: "the next room" },
              ]}
              onPick={(when) => change.mutate({ base: revision, id: s.id, change: { when: when as "" | "circuit" | "next-room" } })}
            />
          </span>
        ) : null}
        {s.wished ? <SetsOff station={s} units={round.units} revision={revision} /> : null}
        <div className="mt-2">
          <Choices
            as="words"
            label="How it can be moved"
            value={s.mobility ?? "fixed"}
            choices={moves}
            onPick={(mobility) => change.mutate({ base: revision, id: s.id, change: { mobility } })}
          />
          {s.mobility === "rolls" && (
            <Choices
              as="words"
              label="What it rolls on"
              value={s.casters ?? ""}
              choices={rollsOn}
              onPick={(casters) => change.mutate({ base: revision, id: s.id, change: { casters } })}
            />
          )}
          {s.mobility === "hangs" && (
            <Field label="its hoist or hooks are rated for">
              <TypedIn
                key={s.rated ?? 0}
                value={s.rated ? weight(s.rated, round.units) : ""}
                onDone={(text) => change.mutate({ base: revision, id: s.id, change: { typed: { rated: text === "" ? "0 kg" : text } } })}
                onTyped={change.reset}
                className="border-b border-line"
              />
            </Field>
          )}
        </div>
      </Part>
      {layout && shape && layout.mode !== "" && <InMode shape={shape} station={s} layout={layout} revision={revision} />}
      <Takes station={s} mode={layout?.mode ?? ""} revision={revision} units={round.units} />
      <Needs station={s.id} revision={revision} />
      <Part title="Where it stands">
        <div className="flex flex-wrap gap-x-3 gap-y-1 text-body">
          <Button onClick={() => turn(90)}>Turn left</Button>
          <Button onClick={() => turn(-90)}>Turn right</Button>
          <Button onClick={() => move.mutate({ base: revision, id: s.id, to: {} })}>Best spot</Button>
          <Button onClick={() => move.mutate({ base: revision, id: s.id, to: { by: "window" } })}>By a window</Button>
          <Button onClick={() => move.mutate({ base: revision, id: s.id, to: { middle: true } })}>In the middle</Button>
          {walls.map((w) => (
            <Button key={w.id} label={`To wall ${w.id}`} onClick={() => move.mutate({ base: revision, id: s.id, to: { wall: w.id } })}>
              Wall {w.id}
            </Button>
          ))}
        </div>
      </Part>
      <Part title={used === 1 ? "1 thing is used here" : `${used} things are used here`}>
        {used > 0 && <p className="m-0 text-small">{seconds(week)} a week to fetch and put them back.</p>}
        <div className="mt-2">
          <Ask
            title={`Remove ${s.name}?`}
            yes="Remove"
            no="Keep it"
            danger
            onYes={() => remove.mutate({ base: revision, id: s.id, instead: instead || undefined }, { onSuccess: onClose })}
            trigger={<Button>Remove this station</Button>}
            or={
              <Button
                disabled={used > 0 && instead === ""}
                onClick={() => keep.mutate({ base: revision, id: s.id, instead: instead || undefined }, { onSuccess: onClose })}
              >
                It is something to keep: put it on the list
              </Button>
            }
          >
            {used === 0 ? (
              <p className="m-0">Nothing is used there. Undo brings it back.</p>
            ) : (
              <div>
                <p className="mt-0">
                  {used === 1
                    ? "One thing is used there. Where is it used then?"
                    : `${used} things are used there. Where are they used then?`}
                </p>
                <Pick
                  label="Used at instead"
                  value={instead}
                  choices={[
                    { value: "", name: "choose a station" },
                    ...all.filter((x) => x.id !== s.id).map((x) => ({ value: x.id, name: x.name })),
                  ]}
                  onPick={setInstead}
                />
              </div>
            )}
          </Ask>
        </div>
      </Part>
    </Sheet>
  );
}

export default Floor;
