import { useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, onto, unwrap, type Round } from "../api/client";
import { useChange } from "../app/shop";
import type { components } from "../api/schema.gen";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Empty } from "../ui/Empty";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { TypedIn } from "../ui/TypedIn";
import { length, squares, typedLength, type Units } from "../units";
import { useSetRecords } from "../upkeep/useUpkeep";

type S = components["schemas"];
type Now = S["ProjectsNow"];
type Seen = Now["projects"][number];

const useProjects = (revision: number) =>
  useQuery({
    queryKey: ["projects", revision],
    queryFn: async () => unwrap(await api.GET("/api/v1/projects")),
    placeholderData: keepPreviousData,
  });

const useSetProject = () =>
  useChange(
    async (v: { base: number; id: string; body: S["Set-projectRequest"] }) =>
      unwrap(await api.PUT("/api/v1/projects/{id}", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.body })),
    () => "Noted.",
  );

const useDrop = () =>
  useChange(
    async (v: { base: number; id: string }) =>
      unwrap(await api.POST("/api/v1/projects/{id}/drop", { params: { path: { id: v.id } }, headers: onto(v.base) })),
    () => "Dropped; what was promised to it is free.",
  );

/** Projects are what is being made: their room, their limit, what is promised to them. */
export default function Projects({ round, revision }: { round: Round; revision: number }) {
  const got = useProjects(revision);
  const set = useSetProject();
  const records = useSetRecords();
  const [name, setName] = useState("");
  const d = got.data;
  if (!d) return <p className="p-4 text-quiet">{got.error ? got.error.message : "Looking at the projects …"}</p>;
  const open = d.projects.filter((p) => !p.state || p.state === "open");
  const others = d.projects.filter((p) => p.state === "done" || p.state === "dropped");
  return (
    <div
      className="round-scroll h-full overflow-y-auto px-4 py-3 text-body"
      tabIndex={0}
      role="region"
      aria-label="Projects"
      data-testid="projects"
    >
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <form
          className="flex items-baseline gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (name.trim() !== "")
              set.mutate({ base: revision, id: "new", body: { name: name.trim(), touched: "today" } }, { onSuccess: () => setName("") });
          }}
        >
          <input
            aria-label="What is made"
            placeholder="a tool chest"
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="h-9 w-64 border border-ink bg-sheet px-3 placeholder:text-quiet"
          />
          <Button kind="main" type="submit" disabled={set.isPending || name.trim() === ""}>
            Begin it
          </Button>
        </form>
        <div className="flex items-baseline gap-1">
          <Labelled label="open at a time, at most" after="" width="max-w-full">
            <TypedIn
              key={d.most}
              value={d.most > 0 ? String(d.most) : ""}
              onDone={(text) => records.mutate({ base: revision, body: { projects_most: Math.max(0, Math.round(Number(text) || 0)) } })}
              onTyped={records.reset}
              className="w-12 border-b border-line text-right"
            />
          </Labelled>
        </div>
        <div className="flex items-baseline gap-1">
          <Labelled label="stalled after" after="days" width="max-w-full">
            <TypedIn
              key={d.stalled}
              value={String(d.stalled || 30)}
              onDone={(text) => Number(text) >= 1 && records.mutate({ base: revision, body: { stalled_days: Math.round(Number(text)) } })}
              onTyped={records.reset}
              className="w-12 border-b border-line text-right"
            />
          </Labelled>
        </div>
        {d.over && (
          <span role="alert" className="font-semibold text-red">
            {open.length} are open, {d.most} were agreed: finish or drop one before the next.
          </span>
        )}
      </div>
      {d.projects.length === 0 && (
        <Empty title="Nothing is being made">
          Name what you make. Say where its parts lie meanwhile and how large it gets: then you see in which arrangement of the floor it has
          room, whether it goes out of the door, and what is kept for it.
        </Empty>
      )}
      <div className="grid gap-x-8 lg:grid-cols-2">
        {open.map((p) => (
          <One key={p.id} p={p} d={d} round={round} revision={revision} />
        ))}
      </div>
      {others.length > 0 && (
        <Part title="Done and dropped">
          <ul className="m-0 list-none p-0">
            {others.map((p) => (
              <li key={p.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
                {p.name} <span className="text-small text-quiet">{p.state}</span>
                <span className="ml-auto" />
                <Button
                  disabled={set.isPending}
                  onClick={() => set.mutate({ base: revision, id: p.id, body: { state: "open", touched: "today" } })}
                >
                  Open it again
                </Button>
              </li>
            ))}
          </ul>
        </Part>
      )}
    </div>
  );
}

function One({ p, d, round, revision }: { p: Seen; d: Now; round: Round; revision: number }) {
  const set = useSetProject();
  const drop = useDrop();
  const units: Units = round.units;
  const typed = (field: "w" | "d" | "h", label: string, value: number | undefined) => (
    <Labelled label={label} width="w-32">
      <TypedIn
        key={value ?? 0}
        value={value ? typedLength(value, units) : ""}
        onDone={(text) => set.mutate({ base: revision, id: p.id, body: { typed: { [field]: text } } })}
        onTyped={set.reset}
        className="w-full border-b border-line"
      />
    </Labelled>
  );
  return (
    <Part title={p.name}>
      <div data-project={p.id}>
        <p className={`m-0 ${p.stalled > 0 ? "text-red" : "text-quiet"}`}>
          {p.stalled > 0 ? `Not touched for ${p.stalled} days. ` : p.touched ? `Touched on ${p.touched}. ` : ""}
          {p.promised.length > 0 && `Kept for it: ${p.promised.map((id) => d.names[id] ?? id).join(", ")}.`}
        </p>
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          {typed("w", "wide", p.w)}
          {typed("d", "deep", p.d)}
          {typed("h", "high", p.h)}
          <span className="flex items-baseline gap-1">
            its parts lie in
            <Pick
              label={`Where the parts of ${p.name} lie`}
              value={p.parking.place}
              choices={[
                { value: "", name: "no place of their own" },
                ...round.places.map((x) => ({ value: x.id, name: x.name ? `${x.id} ${x.name}` : x.id })),
              ]}
              onPick={(place) => set.mutate({ base: revision, id: p.id, body: { place } })}
            />
          </span>
        </div>
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <Labelled label="begun on" width="w-44">
            <TypedIn
              key={p.started ?? ""}
              value={p.started ?? ""}
              onDone={(started) => set.mutate({ base: revision, id: p.id, body: { started } })}
              onTyped={set.reset}
              className="w-full border-b border-line"
            />
          </Labelled>
          <Labelled label="work left" after="h" width="w-36">
            <TypedIn
              key={p.hours ?? 0}
              value={p.hours ? String(p.hours) : ""}
              onDone={(text) => Number(text) >= 0 && set.mutate({ base: revision, id: p.id, body: { hours: Number(text) } })}
              onTyped={set.reset}
              className="w-full border-b border-line text-right"
            />
          </Labelled>
          <Labelled label="dries until" width="w-44">
            <TypedIn
              key={p.dries ?? ""}
              value={p.dries ?? ""}
              onDone={(dries) => set.mutate({ base: revision, id: p.id, body: { dries } })}
              onTyped={set.reset}
              className="w-full border-b border-line"
            />
          </Labelled>
          <Labelled label="notes" width="w-72">
            <TypedIn
              key={p.notes ?? ""}
              value={p.notes ?? ""}
              onDone={(notes) => set.mutate({ base: revision, id: p.id, body: { notes } })}
              onTyped={set.reset}
              className="w-full border-b border-line"
            />
          </Labelled>
        </div>
        {p.parking.place !== "" && (
          <p className="m-0 text-small text-quiet">
            {squares(p.parking.m2, units)} there, parts up to {length(p.parking.long, units)}.
          </p>
        )}
        {p.floors.length > 0 && (
          <ul className="m-0 list-none p-0" data-testid="floors">
            {p.floors.map((f) => (
              <li key={f.mode} className={f.fits ? "" : "text-red"}>
                {f.name}:{" "}
                {f.fits
                  ? "it has room, with room to walk round"
                  : f.w > 0
                    ? `no room: ${length(f.w, units)} by ${length(f.d, units)} at most`
                    : "no room to walk round anything"}
              </li>
            ))}
            {p.out === "stuck" && <li className="text-red">It does not go out of any door in one piece: plan where it is split.</li>}
          </ul>
        )}
        {p.wet && (
          <p className="m-0" data-testid="wet">
            It dries{p.parking.place ? ` in ${p.parking.place}` : ""} until {p.dries}.{" "}
            {p.mind.length > 0 && `Not meanwhile, or only elsewhere: ${p.mind.join(", ")}. `}
            <span className="text-quiet">Air the room to the outside, nobody sleeps there, and what the tin says comes first.</span>
          </p>
        )}
        <div className="flex flex-wrap gap-x-4">
          <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: p.id, body: { touched: "today" } })}>
            Worked on today
          </Button>
          <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: p.id, body: { state: "done" } })}>
            It is done
          </Button>
          <Button disabled={drop.isPending} onClick={() => drop.mutate({ base: revision, id: p.id })}>
            Drop it
          </Button>
        </div>
        {set.error && (
          <p role="alert" className="m-0 text-red">
            {set.error.message}
          </p>
        )}
      </div>
    </Part>
  );
}
