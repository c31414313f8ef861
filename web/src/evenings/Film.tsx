import { useEffect, useState } from "react";
import type { Elevation, EveningStep, Item, Place, Round } from "../api/client";
import { Button } from "../ui/Button";
import { useTargetRound } from "./useEvenings";
import { Outlines } from "../stage/Outlines";

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** how long a picture of the film stands, ms. */
const beat = 900;

/**
 * Film shows the walls as they are with what is where filled, where the plan has things in outline, and what moves this evening in
 * blue: step by step, or played.
 */
export function Film({
  round,
  target,
  steps,
  words,
  revision,
}: {
  round: Round;
  target: string;
  steps: readonly EveningStep[];
  words: (s: EveningStep) => string;
  revision: number;
}) {
  const then = useTargetRound(target, revision).data;
  const [at, setAt] = useState(0);
  const [plays, setPlays] = useState(false);
  useEffect(() => setAt(0), [steps]);
  const over = at >= steps.length;
  useEffect(() => {
    if (!plays || over) return;
    const t = setTimeout(() => setAt((n) => n + 1), beat);
    return () => clearTimeout(t);
  }, [plays, at, over]);
  if (!then) return <div className="mt-2 h-44 border border-line bg-sheet" aria-hidden />;
  const moved = steps.slice(0, at);
  const coming = steps.slice(at);
  const now = steps[at - 1];
  return (
    <figure className="m-0 mt-2" data-testid="film">
      <Walls round={round} then={then} moved={moved} coming={coming} />
      <figcaption className="mt-1 flex flex-wrap items-baseline gap-x-4">
        <Button
          onClick={() => {
            if (over) setAt(0);
            setPlays(!plays || over);
          }}
        >
          {plays && !over ? "Halt" : "Play the evening"}
        </Button>
        <Button disabled={at === 0} onClick={() => setAt((n) => Math.max(0, n - 1))}>
          Step back
        </Button>
        <Button disabled={over} onClick={() => setAt((n) => n + 1)}>
          Step on
        </Button>
        <span className="min-w-0 flex-1 truncate text-small" aria-live="polite">
          {now ? `${at} of ${steps.length}: ${words(now)}` : "Blue moves tonight; dashed is where it goes."}
        </span>
      </figcaption>
    </figure>
  );
}

function Walls({
  round,
  then,
  moved,
  coming,
}: {
  round: Round;
  then: Round;
  moved: readonly EveningStep[];
  coming: readonly EveningStep[];
}) {
  const walls = round.elevations.filter((e) => !e.middle);
  const first = walls[0];
  const last = walls.at(-1);
  if (!first || !last) return null;
  const from = first.offset;
  const wide = last.offset + last.length - from;
  const high = Math.max(...walls.flatMap((e) => e.profile.map((p) => p[1] ?? 0)));
  const on = (r: Round, elevation: number): Elevation | undefined => {
    const e = r.elevations[elevation];
    return e && walls.find((w) => w.area === e.area && w.id === e.id);
  };
  const ofPlace = (r: Round, p: Place | undefined): Box | undefined => {
    const e = p && on(r, p.elevation);
    return e && { x: e.offset + p.x - from, y: high - p.z - p.h, w: p.w, h: p.h };
  };
  const ofThing = (r: Round, id: string): Box | undefined => {
    const t = r.things.find((x) => x.id === id);
    const e = t && on(r, t.elevation);
    return t && e && { x: e.offset + t.x - from, y: high - t.z - t.tall, w: t.w, h: t.tall };
  };
  // What is behind a front is drawn as the front it is behind.
  const boxes = (r: Round, i: Item | undefined): Box[] => {
    if (!i) return [];
    const e = on(r, i.elevation);
    if (e && !i.hidden) return i.pieces.map((p) => ({ x: e.offset + p.x - from, y: high - p.z - p.h, w: p.w, h: p.h }));
    const p = ofPlace(
      r,
      r.places.find((x) => x.id === i.place),
    );
    return p ? [p] : [];
  };
  const storage = (r: Round, id: string): Box[] => {
    const own = ofPlace(
      r,
      r.places.find((p) => p.id === id),
    );
    const thing = own ?? ofThing(r, id);
    return thing ? [thing] : [];
  };
  const gone = new Set(moved.filter((s) => s.temporary || s.do === "clear").map((s) => s.item ?? s.what));
  const there = new Set(moved.filter((s) => !s.temporary && s.do !== "clear").map((s) => s.item ?? s.what));
  const tonight = new Set([...moved, ...coming].map((s) => s.item ?? s.what));
  const thin = { vectorEffect: "non-scaling-stroke" as const };
  const itemThen = new Map(then.items.map((i) => [i.id, i]));
  const still: Box[] = [];
  const blue: Box[] = [];
  const goals: Box[] = [];
  for (const i of round.items) {
    const goal = boxes(then, itemThen.get(i.id));
    if (there.has(i.id)) blue.push(...goal);
    else if (!gone.has(i.id)) (tonight.has(i.id) ? blue : still).push(...(i.hidden && !tonight.has(i.id) ? [] : boxes(round, i)));
    const now = boxes(round, i);
    if (!there.has(i.id) && itemThen.get(i.id)?.place !== i.place) goals.push(...goal.filter((g) => !now.some((b) => same(b, g))));
  }
  for (const s of [...moved, ...coming]) {
    if (!s.what) continue;
    if (there.has(s.what)) blue.push(...storage(then, s.what));
    else goals.push(...storage(then, s.what));
  }
  return (
    <svg
      viewBox={`0 0 ${wide} ${high}`}
      className="max-h-52 w-full"
      role="img"
      aria-label="The walls: what is where filled, where the plan has it dashed, what moves tonight in blue"
    >
      <Outlines walls={walls} from={from} high={high} />
      {round.places.map((p) => {
        const b = ofPlace(round, p);
        return (
          b && !gone.has(p.id) && <rect key={p.id} {...drawn(b)} fill="var(--wood)" stroke="var(--wood-line)" strokeWidth={0.6} {...thin} />
        );
      })}
      {still.map((b, k) => (
        <rect key={k} {...drawn(b)} fill="var(--quiet)" fillOpacity={0.55} />
      ))}
      {goals.map((b, k) => (
        <rect key={k} {...drawn(b)} fill="none" stroke="var(--ink)" strokeWidth={0.8} strokeDasharray="3 2" {...thin} />
      ))}
      {blue.map((b, k) => (
        <rect key={k} {...drawn(b)} fill="var(--blue)" fillOpacity={0.55} stroke="var(--blue)" strokeWidth={0.9} {...thin} />
      ))}
    </svg>
  );
}

const drawn = (b: Box) => ({ x: b.x, y: b.y, width: b.w, height: b.h });

const same = (a: Box, b: Box) => Math.abs(a.x - b.x) < 1 && Math.abs(a.y - b.y) < 1;
