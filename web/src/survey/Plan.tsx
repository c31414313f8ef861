import type { FreeSpace, Round, Surveyed } from "../api/client";
import { scaled } from "../floor/scale";
import { useBox } from "../ui/useBox";
import { length, type Units } from "../units";

interface PlanProps {
  data: Surveyed;
  units: Units;
  wall: string;
  onWall: (id: string) => void;
  things: Round["plan"]["things"];
  ceiling?: FreeSpace["free"]["ceilings"][number];
  zone?: number;
  onZone: (zone: number) => void;
  /** a spot that an answer speaks of */
  spot?: { x: number; y: number };
}

const pad = 58;

/** Plan draws the room as it follows from what was measured, with its dimensions. */
export function Plan({ data, units, wall, onWall, things, ceiling, zone, onZone, spot }: PlanProps) {
  const [ref, box] = useBox<HTMLDivElement>();
  const { room, report } = data;
  const { s, at, points } = scaled(room.corners, box, pad);
  const n = room.corners.length;
  const halo = { paintOrder: "stroke" as const, stroke: "var(--paper)", strokeWidth: 4 };
  const joists = ceiling?.zones[zone ?? -1];

  return (
    <div ref={ref} className="stage relative min-h-0 flex-1">
      <svg width={box.w} height={box.h} role="img" aria-label="Plan of the room" data-testid="plan" data-scale={s}>
        <polygon points={points(room.corners)} fill="var(--sheet)" />
        <g opacity={0.8} shapeRendering="crispEdges">
          {ceiling?.cells.map((c, i) => {
            const [x, y] = at([c.x, c.y + c.d]);
            const fill = c.drop >= 600 ? "var(--free-4)" : c.drop >= 300 ? "var(--free-3)" : c.drop >= 150 ? "var(--free-2)" : undefined;
            return fill ? (
              <rect
                key={i}
                x={x}
                y={y}
                width={c.w * s + 0.5}
                height={c.d * s + 0.5}
                fill={fill}
                onClick={() => pickZone(ceiling, c.x + c.w / 2, c.y + c.d / 2, onZone)}
                style={{ cursor: "pointer" }}
              />
            ) : null;
          })}
        </g>
        {things.map((t) => (
          <polygon
            key={t.id}
            points={points(t.corners)}
            fill="none"
            stroke="var(--wood-line)"
            strokeWidth={1}
            strokeOpacity={ceiling ? 0.5 : 0.8}
          >
            <title>{t.id}</title>
          </polygon>
        ))}
        {data.above.map((f) => {
          const [x, y] = at([f.x, f.y + f.d]);
          return <rect key={f.id} x={x} y={y} width={f.w * s} height={f.d * s} fill="none" stroke="var(--quiet)" strokeDasharray="4 3" />;
        })}
        {data.below.map((f) => {
          const [x, y] = at([f.x, f.y + f.d]);
          return (
            <rect
              key={f.id}
              x={x}
              y={y}
              width={f.w * s}
              height={f.d * s}
              fill={f.kind === "post" ? "var(--ink)" : "url(#step)"}
              stroke="var(--ink)"
            />
          );
        })}
        {joists && (
          <g pointerEvents="none">
            {joists.joists.map((j) => {
              const [x1, y1] = at(joists.along === "y" ? [j, joists.y] : [joists.x, j]);
              const [x2, y2] = at(joists.along === "y" ? [j, joists.y + joists.d] : [joists.x + joists.w, j]);
              return <line key={j} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--wood-line)" strokeWidth={3} />;
            })}
            <rect {...rect(at, joists, s)} fill="var(--blue)" fillOpacity={0.12} stroke="var(--blue)" strokeWidth={2.4} />
          </g>
        )}
        {report.measures.map((m, i) => {
          if (m.kind !== "diagonal") return null;
          const d = diagonal(data, m.name);
          if (!d) return null;
          const [x1, y1] = at(room.corners[d[0]] ?? []);
          const [x2, y2] = at(room.corners[d[1]] ?? []);
          const bad = report.suspect?.measure === i;
          return (
            <g key={i} opacity={m.left_out ? 0.4 : 1}>
              <line
                x1={x1}
                y1={y1}
                x2={x2}
                y2={y2}
                stroke={bad ? "var(--red)" : "var(--quiet)"}
                strokeWidth={bad ? 1.8 : 1}
                strokeDasharray="7 4"
              />
              <text
                x={x1 + (x2 - x1) * 0.35}
                y={y1 + (y2 - y1) * 0.35 - 4}
                textAnchor="middle"
                fontSize={12.5}
                fill={bad ? "var(--red)" : "var(--quiet)"}
                {...halo}
                stroke="var(--sheet)"
              >
                {length(m.value, units)}
              </text>
            </g>
          );
        })}
        {report.propose && !ceiling && (
          <g data-testid="proposed">
            <line
              {...ends(at(room.corners[report.propose.from] ?? []), at(room.corners[report.propose.to] ?? []))}
              stroke="var(--blue)"
              strokeWidth={1.4}
              strokeDasharray="2 4"
            />
          </g>
        )}
        {room.corners.map((c, k) => {
          const d = room.corners[(k + 1) % n] ?? [];
          const [x1, y1] = at(c);
          const [x2, y2] = at(d);
          const l = Math.hypot(x2 - x1, y2 - y1) || 1;
          // Outwards of a clockwise outline, on the screen.
          const [nx, ny] = [(y2 - y1) / l, -(x2 - x1) / l];
          const side = report.walls[k];
          const id = side?.wall ?? "";
          const on = id === wall;
          const bad = report.suspect && report.measures[report.suspect.measure]?.name === `wall ${id}`;
          const ink = bad ? "var(--red)" : on ? "var(--blue)" : side?.measured ? "var(--ink)" : "var(--quiet)";
          const off = 20 + 14 * Math.abs(nx);
          return (
            <g key={id} onPointerUp={() => onWall(id)} style={{ cursor: "pointer" }} data-wall={id}>
              <line
                x1={x1}
                y1={y1}
                x2={x2}
                y2={y2}
                stroke={on ? "var(--blue)" : "var(--ink)"}
                strokeWidth={on ? 4.5 : 3}
                strokeDasharray={data.walls[k]?.claimed ? undefined : "6 3"}
              />
              <line x1={x1 + nx * off} y1={y1 + ny * off} x2={x2 + nx * off} y2={y2 + ny * off} stroke={ink} strokeWidth={1} />
              {[
                [x1, y1],
                [x2, y2],
              ].map(([x, y], i) => (
                <path
                  key={i}
                  d={`M${(x ?? 0) + nx * (off - 5)} ${(y ?? 0) + ny * (off - 5)}l${nx * 10} ${ny * 10}`}
                  stroke={ink}
                  strokeWidth={1}
                />
              ))}
              <text
                x={(x1 + x2) / 2 + nx * off}
                y={(y1 + y2) / 2 + ny * off + 4.5}
                textAnchor="middle"
                fontSize={13.5}
                fontWeight={side?.measured ? 700 : 400}
                fontStyle={side?.measured ? "normal" : "italic"}
                fill={ink}
                {...halo}
                strokeWidth={7}
              >
                {length(side?.measured ? side.value : (side?.adjusted ?? 0), units)}
              </text>
              <text
                x={(x1 + x2) / 2 - nx * 15}
                y={(y1 + y2) / 2 - ny * 15 + 6}
                textAnchor="middle"
                fontSize={17}
                fontWeight={800}
                fill={on ? "var(--blue)" : "var(--ink)"}
                {...halo}
                stroke="var(--sheet)"
              >
                {id}
              </text>
            </g>
          );
        })}
        {room.gaps
          .filter((g) => g.kind !== "wall")
          .map((g, i) => {
            const [x1, y1] = at(g.from);
            const [x2, y2] = at(g.to);
            if (g.kind === "panel")
              return <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--red)" strokeWidth={5} pointerEvents="none" />;
            return (
              <g key={i} pointerEvents="none">
                <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--paper)" strokeWidth={g.kind === "window" ? 5 : 6} />
                {g.kind === "window" && <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--ink)" strokeWidth={1.4} />}
              </g>
            );
          })}
        {report.corners.map((c) => {
          const [x, y] = at([c.x, c.y]);
          return <circle key={c.name} cx={x} cy={y} r={3.2} fill="var(--ink)" />;
        })}
        {spot && (
          <circle
            data-testid="spot"
            cx={at([spot.x, spot.y])[0]}
            cy={at([spot.x, spot.y])[1]}
            r={9}
            fill="none"
            stroke="var(--blue)"
            strokeWidth={2.5}
          />
        )}
      </svg>
    </div>
  );
}

function ends([x1, y1]: [number, number], [x2, y2]: [number, number]) {
  return { x1, y1, x2, y2 };
}

function rect(at: (p: number[]) => [number, number], z: { x: number; y: number; w: number; d: number }, s: number) {
  const [x, y] = at([z.x, z.y + z.d]);
  return { x, y, width: z.w * s, height: z.d * s };
}

/** diagonal finds the corners a diagonal is named by: "diagonal DA to BC". */
function diagonal(data: Surveyed, name: string): [number, number] | undefined {
  const [, from, to] = /^diagonal (\S+) to (\S+)$/.exec(name) ?? [];
  const i = data.report.corners.findIndex((c) => c.name === from);
  const j = data.report.corners.findIndex((c) => c.name === to);
  return i >= 0 && j >= 0 ? [i, j] : undefined;
}

function pickZone(c: NonNullable<PlanProps["ceiling"]>, x: number, y: number, onZone: (zone: number) => void) {
  const i = c.zones.findIndex((z) => x >= z.x && x <= z.x + z.w && y >= z.y && y <= z.y + z.d);
  if (i >= 0) onZone(i);
}
