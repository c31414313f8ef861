import type { EveningStep, Round } from "../api/client";

interface Mark {
  x: number;
  z: number;
  w: number;
  h: number;
}

/** goalOf is where on the wall an evening puts something, as far as the home says where in the place. */
export function goalOf(round: Round, step: EveningStep): Mark[] {
  const at = round.places.find((p) => p.id === step.to?.place);
  const item = round.items.find((i) => i.id === step.item);
  // On an upright face the home says where in the place; elsewhere the place is enough.
  if (!at || at.elevation < 0 || at.closed || !step.to || !item) return [];
  const x = step.to.x ?? 0;
  const z = step.to.z ?? 0;
  return x + item.w <= at.w + 1 && z + item.h <= at.h + 1 ? [{ x: at.x + x, z: at.z + z, w: item.w, h: item.h }] : [];
}

/** pictured tells whether there is a wall on which something can be shown. */
export const pictured = (round: Round, id: string): boolean =>
  round.places.some((p) => (p.id === id || p.host === id) && p.elevation >= 0) || round.things.some((t) => t.id === id && t.elevation >= 0);

/** Spot is the wall with a place or station on it dashed, what is there faint, and marks where in it something is. */
export function Spot({ round, id, marks, max = "16rem" }: { round: Round; id: string; marks: readonly Mark[]; max?: string }) {
  const place = round.places.find((p) => p.id === id) ?? round.places.find((p) => p.host === id);
  const thing = round.things.find((t) => t.id === id);
  const at = place && place.elevation >= 0 ? place : undefined;
  const wall = round.elevations[at?.elevation ?? thing?.elevation ?? -1];
  if (!wall) return null;
  const top = Math.max(2400, ...wall.profile.map((p) => p[1] ?? 0));
  const here = round.places.filter((p) => p.elevation === (at?.elevation ?? thing?.elevation));
  const things = round.things.filter((t) => t.elevation === (at?.elevation ?? thing?.elevation));
  const y = (z: number, h: number) => top - z - h;
  const goal = at ?? (thing && { x: thing.x, z: thing.z, w: thing.w, h: thing.h });
  return (
    <svg
      viewBox={`-40 -40 ${wall.length + 80} ${top + 80}`}
      className="w-full"
      role="img"
      aria-label={`${wall.title}, ${id}`}
      style={{ maxHeight: max }}
    >
      <polygon
        points={[[0, top], ...wall.profile.map((p) => [p[0] ?? 0, top - (p[1] ?? 0)]), [wall.length, top]]
          .map((p) => p.join(","))
          .join(" ")}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth={14}
      />
      {things.map((t) => (
        <rect key={t.id} x={t.x} y={y(t.z, t.tall)} width={t.w} height={t.tall} fill="var(--paper)" stroke="var(--line)" strokeWidth={10} />
      ))}
      {here.map((p) => (
        <rect
          key={p.id}
          x={p.x}
          y={y(p.z, p.h)}
          width={p.w}
          height={p.h}
          fill="var(--wood)"
          fillOpacity={0.35}
          stroke="var(--quiet)"
          strokeWidth={6}
        />
      ))}
      {goal && (
        <rect
          x={goal.x}
          y={y(goal.z, goal.h)}
          width={goal.w}
          height={goal.h}
          fill="var(--blue-wash)"
          stroke="var(--blue)"
          strokeWidth={22}
          strokeDasharray="60 30"
        />
      )}
      {marks.map((m, k) => (
        <rect
          key={k}
          x={m.x}
          y={y(m.z, m.h)}
          width={m.w}
          height={m.h}
          fill="var(--blue)"
          fillOpacity={0.5}
          stroke="var(--blue)"
          strokeWidth={12}
        />
      ))}
    </svg>
  );
}
