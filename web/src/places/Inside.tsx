import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { api, onto, unwrap, type Opened, type Place, type Round } from "../api/client";
import { useShown } from "../app/shown";
import { Part } from "../sheet/Sheet";
import { Pick } from "../ui/Pick";
import { percent, weight, typedLength } from "../units";
import { Plan } from "./Plan";
import { useMovePlace } from "./useMovePlace";
import { useLayout, useRemovePlace, useSetPlace } from "./usePlaces";
import { Ask } from "../ui/Ask";
import { Button } from "../ui/Button";
import { More } from "../ui/More";
import { Tickbox } from "../ui/Tickbox";
import { useChange, useDone } from "../app/shop";
import { TypedIn } from "../ui/TypedIn";

/** Inside shows a place from the side that shows what is in it, with what is to be said of it. */
export function Inside({ place, round, revision }: { place: Place; round: Round; revision: number }) {
  const { select } = useShown();
  const layout = useLayout(place.id, revision);
  if (!layout) return null;
  return (
    <Part title={layout.view === "from the front" ? "As it is" : `Inside, ${layout.view}`}>
      <Plan
        layout={layout}
        units={round.units}
        width={256}
        height={190}
        onPick={(id) => select({ kind: "item", id })}
        own={(id) => round.items.find((i) => i.id === id)}
        label={place.name || place.id}
      />
      <ul className="m-0 mt-1 list-none p-0 text-small" aria-label="Notes on it">
        {layout.notes.map((n) => (
          <li key={n} className={/overloaded|sag|any more/.test(n) ? "text-red" : ""}>
            {n}
          </li>
        ))}
      </ul>
      <How place={place} opened={layout} round={round} revision={revision} />
    </Part>
  );
}

/** How a place is made, as far as its load hangs on it: screws, boards, arms. */
function How({ place, opened: o, round, revision }: { place: Place; opened: Opened; round: Round; revision: number }) {
  const units = round.units;
  const plain = (mm: number) => (mm > 0 ? typedLength(mm, units) : "");
  const count = (n: number) => (n > 0 ? String(n) : "");
  const fields: [string, string, string, string][] = [];
  if (o.board)
    fields.push(
      [place.id, "wood", "made of", o.wood],
      [place.id, "thick", "thick", plain(o.thick)],
      [place.id, "strip", "edge strip", plain(o.strip)],
    );
  if (o.piles) fields.push([place.id, "arms", "arms a level", count(o.arms)]);
  if (o.hung)
    fields.push(
      [o.hung, "screws", "screws in studs", count(o.screws)],
      [o.hung, "screw", "screw thick", plain(o.screw)],
      [o.hung, "thread", "thread in stud", plain(o.thread)],
      [o.hung, "side", "through", plain(o.side)],
      [o.hung, "lever", "above its foot", plain(o.lever)],
    );
  if (fields.length === 0) return null;
  return (
    <More title="How it is made and fixed">
      <div className="mt-1 flex flex-col gap-0.5">
        {fields.map(([id, field, label, value]) => (
          <Fact key={`${id} ${field} ${value}`} id={id} field={field} label={label} value={value} revision={revision} wide />
        ))}
      </div>
    </More>
  );
}

/** Where moves a place or its case, or takes it away; its things stay. */
export function Where({ place, round, revision }: { place: Place; round: Round; revision: number }) {
  const { select } = useShown();
  const move = useMovePlace();
  const remove = useRemovePlace();
  const done = useDone();
  const units = round.units;
  const host = round.things.find((t) => t.id === place.host);
  const here = round.elevations[place.elevation];
  const walls = round.elevations.filter((s) => !s.middle);
  const plain = (mm: number) => typedLength(mm, units);
  const floor = host?.floor;
  const hung = place.host === "" && here && !here.middle;
  const [wall, setWall] = useState(here && !here.middle ? `${here.area} ${here.id}` : "");
  const [first, setFirst] = useState(plain(floor?.[0] ?? place.x));
  const [second, setSecond] = useState(plain(floor?.[1] ?? place.z));
  const id = place.host || place.id;
  const living = round.items.filter(
    (i) => i.place === place.id || (place.host !== "" && round.places.some((p) => p.host === place.host && p.id === i.place)),
  );
  if (host?.station) return null;
  const field = (label: string, says: string, value: string, set: (v: string) => void) => (
    <>
      <input
        aria-label={label}
        aria-invalid={move.isError || undefined}
        value={value}
        onChange={(e) => {
          set(e.target.value);
          move.reset();
        }}
        className="w-16 border-b border-line bg-transparent px-1 text-right"
      />
      <span className="text-quiet">{says}</span>
    </>
  );
  return (
    <Part title={place.host ? `${place.host}, which it is part of` : "Where it is"}>
      {(hung || floor) && (
        <form
          className="flex flex-wrap items-baseline gap-x-2 text-small"
          aria-label="Move it"
          onSubmit={(e) => {
            e.preventDefault();
            const [area = "", w = ""] = wall.split(" ");
            move.mutate(
              floor
                ? { base: revision, id, at: { area: here?.area ?? "", floor: [0, 0], rot: host.rot ?? 0 }, typed: { x: first, y: second } }
                : { base: revision, id, at: { area, wall: w }, typed: { x: first, z: second } },
              { onSuccess: (r) => done(`${id} moved, and what is in it.`, r) },
            );
          }}
        >
          {!floor && (
            <Pick label="Wall" value={wall} choices={walls.map((s) => ({ value: `${s.area} ${s.id}`, name: s.id }))} onPick={setWall} />
          )}
          {field("From the left", "left", first, setFirst)}
          {floor ? field("From below on the plan", "up the plan", second, setSecond) : field("Height", "up", second, setSecond)}
          <button className="ml-auto font-semibold text-blue hover:underline">Move</button>
          {move.isError && (
            <span role="alert" className="w-full text-fine text-red">
              {move.error.message}
            </span>
          )}
        </form>
      )}
      {host && <Traits id={host.id} traits={host.traits} revision={revision} />}
      <Ask
        title={`Remove ${id}?`}
        yes="Remove it"
        no="Keep it"
        danger
        trigger={<Button className="mt-1 text-red">Remove {id}</Button>}
        onYes={() =>
          remove.mutate(
            { base: revision, id },
            {
              onSuccess: (r) => {
                select(undefined);
                done(`${id} is removed; ${r.ids.length} things have no home now.`, r);
              },
            },
          )
        }
      >
        {living.length === 0
          ? "Nothing lives there."
          : `${living.length} ${living.length === 1 ? "thing lives" : "things live"} there. They stay on the list and wait in the tray for another home; Fit finds one for each.`}
      </Ask>
    </Part>
  );
}

const traits: [string, string][] = [
  ["dust_tight", "keeps dust out"],
  ["lockable", "can be locked"],
  ["portable", "is carried to the work"],
];

/** Traits of a case that decide what may live in it. */
function Traits({ id, traits: has, revision }: { id: string; traits: string[]; revision: number }) {
  const set = useSetPlace();
  return (
    <div className="mt-1 flex flex-col text-small" role="group" aria-label={`What ${id} is like`}>
      {traits.map(([field, says]) => (
        <Tickbox
          key={field}
          on={has.includes(field)}
          disabled={set.isPending}
          onChange={(on) => set.mutate({ base: revision, id, field, text: on ? "yes" : "no" })}
        >
          {says}
        </Tickbox>
      ))}
    </div>
  );
}

/** Fact is one field of a place that can be typed anew; what is refused stays with the reason. */
function Fact({
  id,
  field,
  label,
  value,
  revision,
  wide,
}: {
  id: string;
  field: string;
  label: string;
  value: string;
  revision: number;
  wide?: boolean;
}) {
  const set = useSetPlace();
  return (
    <label className="flex min-w-0 items-baseline gap-2">
      <span className={`narrow shrink-0 text-small text-quiet ${wide ? "w-23" : "w-15.5"}`}>{label}</span>
      <TypedIn
        value={value}
        why={set.error?.message}
        onDone={(text) => set.mutate({ base: revision, id, field, text })}
        onTyped={set.reset}
        className={`border-b ${set.isError ? "" : "border-line"}`}
      />
    </label>
  );
}

/** Labelled says whether a label outside tells what is in a place: then nobody has to search it. */
function Labelled({ place: p, revision }: { place: Place; revision: number }) {
  const set = useSetPlace();
  return (
    <Tickbox
      on={p.labelled}
      disabled={set.isPending}
      onChange={(on) => set.mutate({ base: revision, id: p.id, field: "labelled", text: on ? "yes" : "no" })}
    >
      a label outside says what is in it
    </Tickbox>
  );
}

/** Closely packs a place by the outlines of its things. */
export function Closely({ place: p, revision }: { place: Place; revision: number }) {
  const set = useSetPlace();
  const look = useMutation({
    mutationFn: async () => unwrap(await api.POST("/api/v1/places/{id}/closely", { params: { path: { id: p.id } }, body: {} })),
  });
  const lay = useChange(
    async (base: number) =>
      unwrap(await api.PUT("/api/v1/places/{id}/closely", { params: { path: { id: p.id } }, headers: onto(base), body: {} })),
    () => "They hang or lie so now.",
  );
  const r = look.data;
  return (
    <Part title="By their outlines">
      <Tickbox
        on={p.dense}
        disabled={set.isPending}
        onChange={(on) => set.mutate({ base: revision, id: p.id, field: "dense", text: on ? "yes" : "no" })}
      >
        things may reach into each other&apos;s boxes here
      </Tickbox>
      <p className="m-0 mt-1">
        <Button disabled={look.isPending} onClick={() => look.mutate()}>
          {look.isPending ? "Laying them …" : "How many go in so?"}
        </Button>
      </p>
      {look.error && (
        <p className="m-0 text-red" role="alert">
          {look.error.message}
        </p>
      )}
      {r && (
        <div data-testid="closely">
          <p className="m-0">
            {r.after} instead of {r.before}, {percent(r.filled)} of it filled instead of {percent(r.was)}
            {r.moved > 0 && `; ${r.moved} move`}.
          </p>
          {r.added.length > 0 && <p className="m-0 text-small text-quiet">New in it: {r.added.join(", ")}.</p>}
          {r.unknown.length > 0 && (
            <p className="m-0 text-small text-quiet">
              {r.unknown.length === 1 ? "One counts" : `${r.unknown.length} count`} with the box round it: photograph it on a sheet for its
              outline.
            </p>
          )}
          {(r.added.length > 0 || r.moved > 0) && (
            <p className="m-0 mt-1">
              <Button kind="main" disabled={lay.isPending} onClick={() => lay.mutate(revision, { onSuccess: () => look.reset() })}>
                Lay them so
              </Button>
            </p>
          )}
        </div>
      )}
    </Part>
  );
}

/** Facts of a place: its name, its size, what it may carry. */
export function Facts({ place: p, round, revision }: { place: Place; round: Round; revision: number }) {
  const units = round.units;
  const plain = (mm: number) => typedLength(mm, units);
  return (
    <Part title="Facts">
      <div className="flex flex-col gap-0.5 text-small">
        <Fact key={`name ${p.name}`} id={p.id} field="name" label="name" value={p.name} revision={revision} />
        {(["w", "h", "d"] as const).map((f) => (
          <Fact
            key={`${f} ${p[f]}`}
            id={p.id}
            field={f}
            label={{ w: "wide", h: "high", d: "deep" }[f]}
            value={plain(p[f])}
            revision={revision}
          />
        ))}
        <Fact
          key={`capacity ${p.capacity}`}
          id={p.id}
          field="capacity"
          label="may carry"
          value={p.capacity > 0 ? weight(p.capacity, units) : ""}
          revision={revision}
        />
      </div>
      <div className="mt-1 text-small">
        <Labelled place={p} revision={revision} />
      </div>
      {p.capacity === 0 && (
        <p className="text-small text-quiet">Not rated: type in what its maker says, or say below how it is screwed to its studs.</p>
      )}
    </Part>
  );
}
