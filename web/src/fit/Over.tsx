import type { Round, Elevation } from "../api/client";
import { Outlines } from "../stage/Outlines";

/** Over draws the walls of two rounds over each other: as it stands in outline, the plan in wood and blue. */
export function Over({ before, after, wall, title }: { before?: Round; after: Round; wall?: Elevation; title?: string }) {
  const elevations = after.elevations.filter((s) => !s.middle && (!wall || (s.area === wall.area && s.id === wall.id)));
  const first = elevations[0];
  const last = elevations.at(-1);
  if (!first || !last) return null;
  const from = first.offset;
  const wide = last.offset + last.length - from;
  const high = Math.max(...elevations.flatMap((s) => s.profile.map((p) => p[1] ?? 0)));
  const seen = (round: Round, elevation: number) => {
    const s = round.elevations[elevation];
    return s && elevations.find((t) => t.area === s.area && t.id === s.id);
  };
  const places = (round: Round) =>
    round.places.flatMap((p) => (seen(round, p.elevation) ? [{ ...p, left: (seen(round, p.elevation)?.offset ?? 0) + p.x - from }] : []));
  const things = (round: Round) =>
    round.items.flatMap((i) => {
      const s = seen(round, i.elevation);
      return s && !i.hidden
        ? i.pieces.map((p, k) => ({ key: `${i.id} ${k}`, x: s.offset + p.x - from, y: high - p.z - p.h, w: p.w, h: p.h }))
        : [];
    });
  const thin = { vectorEffect: "non-scaling-stroke" as const };
  return (
    <svg
      viewBox={`0 0 ${wide} ${high}`}
      className="w-full"
      role={title ? "img" : undefined}
      aria-label={title}
      aria-hidden={title ? undefined : true}
      data-testid="over"
    >
      <Outlines walls={elevations} from={from} high={high} />
      {places(after).map((p) => (
        <rect
          key={p.id}
          x={p.left}
          y={high - p.z - p.h}
          width={p.w}
          height={p.h}
          fill="var(--wood)"
          stroke="var(--wood-line)"
          strokeWidth={0.6}
          {...thin}
        />
      ))}
      {wall &&
        things(after).map((t) => (
          <rect
            key={t.key}
            x={t.x}
            y={t.y}
            width={t.w}
            height={t.h}
            fill="var(--blue)"
            fillOpacity={0.28}
            stroke="var(--blue)"
            strokeWidth={0.9}
            {...thin}
          />
        ))}
      {before &&
        places(before)
          .filter((p) => !places(after).some((q) => q.id === p.id && q.left === p.left && q.z === p.z && q.w === p.w && q.h === p.h))
          .map((p) => (
            <rect
              key={p.id}
              x={p.left}
              y={high - p.z - p.h}
              width={p.w}
              height={p.h}
              fill="none"
              stroke="var(--red)"
              strokeWidth={0.9}
              strokeDasharray="4 2"
              {...thin}
            />
          ))}
      {before &&
        wall &&
        things(before).map((t) => (
          <rect
            key={t.key}
            x={t.x}
            y={t.y}
            width={t.w}
            height={t.h}
            fill="none"
            stroke="var(--red)"
            strokeWidth={0.8}
            strokeDasharray="2 2"
            {...thin}
          />
        ))}
    </svg>
  );
}
