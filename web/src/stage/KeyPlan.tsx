import type { Round } from "../api/client";
import { seconds } from "../units";
import { useView } from "./view";

/** KeyPlan is the floor: stations, the part of the walls on screen, and walking lines as wide as they cost. */
export function KeyPlan({ round, station, path }: { round: Round; station?: string; path?: number[][] }) {
  const room = round.plan.rooms[0];
  const inSight = useView((v) =>
    round.elevations
      .filter((s) => !s.middle && s.area === room?.area && s.offset < v.to && s.offset + s.length > v.from)
      .map((s) => s.id)
      .join(" "),
  );
  if (!room) return null;
  const xs = room.corners.map((c) => c[0] ?? 0);
  const ys = room.corners.map((c) => c[1] ?? 0);
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const margin = 560;
  const y = (v: number | undefined) => high - (v ?? 0);
  const points = (list: readonly (readonly number[])[]) => list.map((p) => `${p[0]},${y(p[1])}`).join(" ");
  const busiest = [...round.plan.stations].sort((a, b) => b.seconds - a.seconds)[0];
  const shown = round.plan.stations.find((s) => s.id === station) ?? busiest;
  const most = Math.max(1, ...(shown?.ways.map((w) => w.seconds) ?? []));
  return (
    <figure className="m-0 flex min-h-0 flex-1 flex-col">
      <svg
        className="min-h-0 flex-1"
        viewBox={`${left - margin} ${-margin} ${right - left + 2 * margin} ${high - low + 2 * margin}`}
        role="img"
        aria-label={`Floor plan with the ways from ${shown?.name ?? "the stations"}`}
      >
        <polygon
          points={points(room.corners)}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={2.4}
          vectorEffect="non-scaling-stroke"
        />
        {room.gaps
          .filter((g) => g.kind !== "wall" && g.kind !== "panel")
          .map((g, i) => (
            <line
              key={i}
              x1={g.from[0]}
              y1={y(g.from[1])}
              x2={g.to[0]}
              y2={y(g.to[1])}
              stroke={g.kind === "window" ? "var(--blue)" : "var(--paper)"}
              strokeWidth={4}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        {round.plan.things.map((t) => (
          <polygon
            key={t.id}
            points={points(t.corners)}
            fill={t.station ? "var(--wood)" : "var(--steel)"}
            stroke="var(--ink)"
            strokeWidth={0.9}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {!path &&
          shown?.ways.map((w) => (
            <polyline
              key={w.place}
              points={points(w.points)}
              fill="none"
              stroke="var(--blue)"
              strokeOpacity={0.5}
              strokeLinejoin="round"
              strokeLinecap="round"
              strokeWidth={0.8 + (4.5 * w.seconds) / most}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        {path && path.length > 1 && (
          <polyline
            data-testid="walking-line"
            points={points(path)}
            fill="none"
            stroke="var(--blue)"
            strokeWidth={3}
            strokeLinejoin="round"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {path && path.length > 0 && (
          <circle cx={path[path.length - 1]?.[0]} cy={y(path[path.length - 1]?.[1])} r={130} fill="var(--blue)" />
        )}
        {shown && <circle cx={shown.x} cy={y(shown.y)} r={110} fill="var(--ink)" />}
        {room.gaps
          .filter((g) => g.kind === "wall")
          .map((g) => {
            const on = inSight.split(" ").includes(g.wall);
            const [mx, my] = [g.mid[0] ?? 0, g.mid[1] ?? 0];
            const ox = mx <= left + 1 ? -330 : mx >= right - 1 ? 330 : 0;
            const oy = my <= low + 1 ? -330 : my >= high - 1 ? 330 : 0;
            return (
              <g key={g.wall}>
                {on && (
                  <line
                    x1={g.from[0]}
                    y1={y(g.from[1])}
                    x2={g.to[0]}
                    y2={y(g.to[1])}
                    stroke="var(--blue)"
                    strokeWidth={4}
                    strokeOpacity={0.55}
                    vectorEffect="non-scaling-stroke"
                  />
                )}
                <text
                  x={mx + ox}
                  y={y(my + oy) + 130}
                  textAnchor="middle"
                  fontSize={400}
                  fontWeight={on ? 800 : 600}
                  fill={on ? "var(--blue)" : "var(--ink)"}
                >
                  {g.wall}
                </text>
              </g>
            );
          })}
      </svg>
      <figcaption className="text-fine text-quiet">
        {path && path.length > 1
          ? "the way from where it is used"
          : shown
            ? `ways from ${shown.name}: ${seconds(shown.seconds)} a week`
            : "no station yet"}
      </figcaption>
    </figure>
  );
}
