import { fixed } from "../units";
import type { Supplied } from "./useSupply";

export type Shown = "power" | "dust" | "light" | "noise" | "pipes";

/** SupplyPlan draws the room with its cords, its hoses, or its light. */
export function SupplyPlan({
  room,
  shown,
  chosen,
  small,
  onChoose,
}: {
  room: Supplied;
  shown: Shown;
  chosen: string;
  /** on a phone: larger words, fewer of them */
  small: boolean;
  onChoose: (id: string) => void;
}) {
  const xs = room.plan.outline.map((p) => p[0] ?? 0);
  const ys = room.plan.outline.map((p) => p[1] ?? 0);
  const [x0, y0, x1, y1] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  const at = (p: number[]) => `${(p[0] ?? 0) - x0},${y1 - (p[1] ?? 0)}`;
  const text = Math.max(x1 - x0, y1 - y0) / (small ? 30 : 52);
  const most = small ? 10 : 16;
  const short = (id: string) => room.cautions.some((c) => c.on === id && (c.code === "short-cord" || c.code === "far-hose"));
  const lines =
    shown === "power"
      ? room.plugs.map((p) => ({ id: p.station, path: p.path, bad: short(p.station), crossing: p.crossing > 0 }))
      : shown === "dust"
        ? room.runs.map((r) => ({ id: r.station, path: r.path, bad: short(r.station), crossing: false }))
        : shown === "pipes"
          ? room.reached.map((r) => ({ id: r.station + r.what, path: r.path, bad: r.short, crossing: r.crossing > 0 }))
          : [];
  return (
    <svg
      viewBox={`${-text * 4} ${-text * 2} ${x1 - x0 + text * 8} ${y1 - y0 + text * 4}`}
      className="max-h-[70vh] w-full"
      role="img"
      aria-label={
        {
          power: "Plan with the cords",
          dust: "Plan with the hoses",
          light: "Plan with the light",
          noise: "Plan of what is loud",
          pipes: "Plan with hoses and pipes",
        }[shown]
      }
      data-testid="supply-plan"
    >
      <polygon points={room.plan.outline.map(at).join(" ")} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={40} />
      {room.plan.stations.map((s) => {
        const lit = room.lit.find((l) => l.station === s.id);
        const mid = [0, 1].map((k) => s.points.reduce((n, p) => n + (p[k] ?? 0), 0) / Math.max(1, s.points.length));
        const dark = shown === "light" && lit && lit.evening < lit.wants;
        return (
          <g key={s.id} onClick={() => onChoose(s.id)} style={{ cursor: "pointer" }}>
            <title>{s.name}</title>
            <polygon
              points={s.points.map(at).join(" ")}
              fill={dark ? "var(--steel-dark)" : "var(--wood)"}
              fillOpacity={dark ? 0.55 : 0.7}
              stroke={chosen === s.id ? "var(--blue)" : "var(--wood-line)"}
              strokeWidth={chosen === s.id ? 40 : 15}
            />
            <text
              x={(mid[0] ?? 0) - x0}
              y={y1 - (mid[1] ?? 0) + text * 0.35}
              fontSize={text}
              textAnchor="middle"
              fill={dark ? "var(--paper)" : "var(--ink)"}
              stroke={dark ? "none" : "var(--sheet)"}
              strokeWidth={text / 5}
              paintOrder="stroke"
            >
              {shown === "light"
                ? lit
                  ? `${fixed(lit.evening, 0)} lx`
                  : ""
                : s.name.length > most
                  ? `${s.name.slice(0, most - 1)}…`
                  : s.name}
            </text>
          </g>
        );
      })}
      {lines.map((l) => (
        <polyline
          key={l.id}
          points={l.path.map(at).join(" ")}
          fill="none"
          stroke={l.bad || l.crossing ? "var(--red)" : "var(--blue)"}
          strokeWidth={chosen === l.id ? 60 : 32}
          strokeDasharray={l.bad ? "140 90" : undefined}
          strokeLinejoin="round"
          pointerEvents="none"
        />
      ))}
      {shown === "power" &&
        room.plan.outlets.map((o) => (
          <g key={o.id}>
            <title>{o.name}</title>
            {o.points.map((p, i) => (
              <circle
                key={i}
                cx={(p[0] ?? 0) - x0}
                cy={y1 - (p[1] ?? 0)}
                r={text * 0.55}
                fill="var(--paper)"
                stroke="var(--ink)"
                strokeWidth={25}
              />
            ))}
          </g>
        ))}
      {shown === "dust" && room.cleaner && (
        <g>
          <title>an air cleaner would hang best here</title>
          <rect
            x={room.cleaner.x - x0 - 350}
            y={y1 - room.cleaner.y - 175}
            width={700}
            height={350}
            fill="none"
            stroke="var(--blue)"
            strokeWidth={40}
            strokeDasharray="120 80"
          />
        </g>
      )}
      {shown === "noise" &&
        room.said.walls.map((w, i) => {
          const [a, b] = [room.plan.outline[i], room.plan.outline[(i + 1) % room.plan.outline.length]];
          return w.beyond && a && b ? (
            <polyline key={w.id} points={[a, b].map(at).join(" ")} fill="none" stroke="var(--red)" strokeWidth={90}>
              <title>{w.beyond === "bedroom" ? "somebody sleeps beyond it" : "a neighbour lives beyond it"}</title>
            </polyline>
          ) : null;
        })}
      {shown === "light" && (
        <>
          {room.rehang.map((h) => (
            <circle key={h.lamp} cx={h.x - x0} cy={y1 - h.y} r={text * 0.7} fill="none" stroke="var(--ink)" strokeWidth={30}>
              <title>a lamp to hang here</title>
            </circle>
          ))}
          {room.plan.lamps.map((o) => (
            <g key={o.id}>
              <title>{o.name}</title>
              {o.points.map((p, i) => (
                <rect
                  key={i}
                  x={(p[0] ?? 0) - x0 - text}
                  y={y1 - (p[1] ?? 0) - text * 0.3}
                  width={text * 2}
                  height={text * 0.6}
                  fill="var(--paper)"
                  stroke="var(--ink)"
                  strokeWidth={20}
                />
              ))}
            </g>
          ))}
          {room.lamp && (
            <g>
              <title>a lamp more would bring most here</title>
              <circle
                cx={room.lamp.x - x0}
                cy={y1 - room.lamp.y}
                r={text * 0.9}
                fill="none"
                stroke="var(--blue)"
                strokeWidth={40}
                strokeDasharray="120 80"
              />
            </g>
          )}
        </>
      )}
    </svg>
  );
}
