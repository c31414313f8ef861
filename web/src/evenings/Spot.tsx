import type { EveningStep, Round } from "../api/client";

/** Spot is the wall something goes to, with what is there filled and where it goes in outline. */
export function Spot({ round, step }: { round: Round; step: EveningStep }) {
  const id = step.to?.place ?? step.what ?? "";
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
  const item = round.items.find((i) => i.id === step.item);
  // On an upright face the home says where in the place; elsewhere the place is enough.
  const upright = at && !at.closed && step.to && item && (step.to.x ?? 0) + item.w <= at.w + 1 && (step.to.z ?? 0) + item.h <= at.h + 1;
  return (
    <svg
      viewBox={`-40 -40 ${wall.length + 80} ${top + 80}`}
      className="w-full"
      role="img"
      aria-label={`${wall.title}, ${id}`}
      style={{ maxHeight: "16rem" }}
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
      {upright && (
        <rect
          x={at.x + (step.to?.x ?? 0)}
          y={y(at.z + (step.to?.z ?? 0), item.h)}
          width={item.w}
          height={item.h}
          fill="var(--blue)"
          fillOpacity={0.5}
          stroke="var(--blue)"
          strokeWidth={12}
        />
      )}
    </svg>
  );
}
