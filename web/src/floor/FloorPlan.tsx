import { useEffect, useRef, useState } from "react";
import { api, unwrap, type Arrangement, type FloorLayout, type FloorShape, type Round, type Station } from "../api/client";
import { useBox } from "../ui/useBox";
import { length } from "../units";
import type { Played } from "./ChangeOver";
import { scaled } from "./scale";
import { corners } from "./useFloor";

/** Tried is what the core says of a spot something is held over. */
export interface Tried {
  blocked: string;
  allowed: boolean;
  /** seconds a week more; nothing where the mode has no cost of its own */
  more?: number;
}

interface Props {
  round: Round;
  /** the floor in the mode that is looked at */
  layout: FloorLayout;
  /** stations as they stand, for what is assumed of them */
  stations: readonly Station[];
  chosen: string | undefined;
  /** strips of floor that are free for a piece at the chosen machine */
  ways: readonly (readonly (readonly number[])[])[];
  /** ways of the material of a job */
  legs: readonly (readonly (readonly number[])[])[];
  /** cords, each with whether it is too short or crosses a way */
  leads: readonly { path: readonly (readonly number[])[]; bad: boolean }[];
  /** light where one works, lx */
  lux: readonly { station: string; evening: number; wants: number }[];
  /** an arrangement that is proposed, drawn over how it stands */
  proposed: Arrangement | undefined;
  /** a moment of a change-over */
  played: Played | undefined;
  onChoose: (id: string | undefined) => void;
  /** it is put down somewhere */
  onMove: (id: string, floor: [number, number], rot: number) => void;
  onTrial: (trial: Tried | undefined) => void;
}

/** Held is a station on its way: where its left lower corner is, and its turn. */
interface Held {
  id: string;
  x: number;
  y: number;
  rot: number;
  /** by keys it stays until Enter puts it down */
  keyed: boolean;
}

const pad = 48;
/** By keys it goes by steps of mm, with Shift by larger ones. */
const small = 10;
const large = 100;

/** fitting are the first words of a name that there is room for. */
function fitting(name: string, px: number): string {
  let out = "";
  for (const word of name.split(" ")) {
    const longer = out === "" ? word : `${out} ${word}`;
    if (longer.length * 6.6 > px) break;
    out = longer;
  }
  return out;
}

/** tone is how dark something is drawn: the higher, the darker. */
const tone = (to: number) =>
  `color-mix(in oklab, var(--wood-dark) ${Math.round(Math.min(1, Math.max(0, (to - 500) / 1500)) * 100)}%, var(--wood))`;

/** tryOut asks the core what would come of something standing there. */
async function tryOut(mode: string, h: Held): Promise<Tried> {
  const body = { floor: [h.x, h.y] as [number, number], rot: h.rot };
  if (mode === "") {
    const t = unwrap(await api.POST("/api/v1/stations/{id}/try", { params: { path: { id: h.id } }, body }));
    return { blocked: t.blocked, allowed: t.allowed, more: t.then - t.now };
  }
  const t = unwrap(await api.POST("/api/v1/modes/{id}/spots/{thing}/try", { params: { path: { id: mode, thing: h.id } }, body }));
  return { blocked: t.blocked, allowed: !t.hard };
}

/**
 * FloorPlan is the floor to scale with what stands there, darker the higher it is. As it stands stations are dragged, in a mode
 * whatever rolls or folds; by keys they are moved by arrows and turned by r.
 */
export function FloorPlan({ round, layout, stations, chosen, ways, legs, leads, lux, proposed, played, onChoose, onMove, onTrial }: Props) {
  const [ref, box] = useBox<HTMLDivElement>();
  const [held, setHeld] = useState<Held>();
  const grip = useRef<{ id: string; dx: number; dy: number; x: number; y: number; moved: boolean } | undefined>(undefined);
  const room = round.plan.rooms[0];
  const asked = useRef<{ asking: boolean; next?: Held }>({ asking: false });

  // The core is asked about one spot at a time, and about the newest next.
  useEffect(() => {
    const a = asked.current;
    if (!held) {
      a.next = undefined;
      onTrial(undefined);
      return;
    }
    a.next = held;
    const ask = async () => {
      if (a.asking || !a.next) return;
      const h = a.next;
      a.next = undefined;
      a.asking = true;
      try {
        onTrial(await tryOut(layout.mode, h));
      } catch {
        onTrial(undefined);
      }
      a.asking = false;
      void ask();
    };
    void ask();
  }, [held, onTrial, layout.mode]);

  if (!room) return null;
  const { s: scale, left, right, low, high, at, points, mm: onFloor } = scaled(room.corners, box, pad);
  const mm = (e: React.PointerEvent) => {
    const r = ref.current?.getBoundingClientRect();
    return onFloor(e.clientX - (r?.left ?? 0), e.clientY - (r?.top ?? 0));
  };
  const moves = (s: FloorShape) =>
    layout.mode === "" ? s.kind === "station" : s.movable && (s.state === "stands" || s.state === "folded");
  const clash = new Set(layout.breaches.filter((b) => b.hard).flatMap((b) => b.of));
  // While a change-over is played, what it moves is drawn by itself.
  const here = layout.shapes.filter((s) => (s.state === "stands" || s.state === "folded") && !played?.moved.includes(s.id));
  const others = here.filter((s) => s.kind !== "station" && !moves(s));
  const up = layout.shapes.filter((s) => s.state === "hoisted");
  const movables = here.filter((s) => s.kind === "station" || moves(s));

  const press = (e: React.PointerEvent, s: FloorShape) => {
    if (e.button !== 0) return;
    if (!moves(s)) {
      onChoose(s.id);
      return;
    }
    const [x, y] = mm(e);
    grip.current = { id: s.id, dx: x - s.x, dy: y - s.y, x: e.clientX, y: e.clientY, moved: false };
    e.currentTarget.setPointerCapture(e.pointerId);
  };
  const drag = (e: React.PointerEvent, s: FloorShape) => {
    const g = grip.current;
    if (!g || g.id !== s.id) return;
    if (!g.moved && Math.hypot(e.clientX - g.x, e.clientY - g.y) < 5) return;
    g.moved = true;
    const [x, y] = mm(e);
    const to = (v: number) => Math.round(v / small) * small;
    setHeld({ id: s.id, x: to(x - g.dx), y: to(y - g.dy), rot: s.rot, keyed: false });
  };
  const drop = () => {
    const g = grip.current;
    grip.current = undefined;
    if (g?.moved && held) onMove(held.id, [held.x, held.y], held.rot);
    // What is chosen opens beside the plan, which must not move under the pointer.
    else if (g) onChoose(g.id);
    setHeld(undefined);
  };
  const key = (e: React.KeyboardEvent, s: FloorShape) => {
    if (!moves(s)) {
      if (e.key !== "Enter" && e.key !== " ") return;
      onChoose(s.id);
      e.preventDefault();
      return;
    }
    const by = e.shiftKey ? large : small;
    const now = held?.id === s.id ? held : { id: s.id, x: s.x, y: s.y, rot: s.rot, keyed: true };
    const step = ({ ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] } as Record<string, [number, number]>)[
      e.key
    ];
    if (step) setHeld({ ...now, x: now.x + step[0], y: now.y + step[1], keyed: true });
    else if (e.key === "r" || e.key === "R") setHeld({ ...now, rot: (now.rot + (e.shiftKey ? 15 : 90)) % 360, keyed: true });
    else if (e.key === "Enter" && held?.id === s.id) {
      onMove(held.id, [held.x, held.y], held.rot);
      setHeld(undefined);
    } else if (e.key === "Escape" && held) setHeld(undefined);
    else if (e.key === "Enter" || e.key === " ") onChoose(s.id);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  return (
    <div ref={ref} className="stage relative min-h-0 flex-1 touch-none">
      <svg width={box.w} height={box.h} role="group" aria-label="Plan of the floor" data-testid="floor" data-scale={scale}>
        <polygon
          points={points(room.corners)}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={3}
          onClick={() => onChoose(undefined)}
        />
        {room.gaps
          .filter((g) => g.kind !== "wall" && g.kind !== "panel")
          .map((g, i) => {
            const [[x1, y1], [x2, y2]] = [at(g.from), at(g.to)];
            return (
              <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} stroke={g.kind === "window" ? "var(--blue)" : "var(--paper)"} strokeWidth={5} />
            );
          })}
        {room.gaps
          .filter((g) => g.kind === "wall")
          .map((g) => {
            const [mx, my] = at(g.mid);
            const [dx, dy] = [mx - box.w / 2, my - box.h / 2];
            const across = Math.abs(dx) * (high - low) > Math.abs(dy) * (right - left);
            return (
              <text
                key={g.wall}
                x={mx + (across ? Math.sign(dx) * 22 : 0)}
                y={my + (across ? 0 : Math.sign(dy) * 22)}
                textAnchor="middle"
                dominantBaseline="central"
                fontSize={17}
                fontWeight={700}
                fill="var(--ink)"
              >
                {g.wall}
              </text>
            );
          })}
        {others.map((t) => (
          <polygon key={t.id} points={points(t.corners)} fill="var(--steel)" fillOpacity={0.55} stroke="var(--quiet)" strokeWidth={1}>
            <title>{`${t.name}, ${length(t.to, round.units)} high`}</title>
          </polygon>
        ))}
        {up.map((t) => (
          <g key={t.id} pointerEvents="none">
            <polygon points={points(t.corners)} fill="none" stroke="var(--quiet)" strokeWidth={1} strokeDasharray="2 4" />
            <text
              x={at(t.corners[0]!)[0] + 4}
              y={at(t.corners[0]!)[1] - 5}
              fontSize={11}
              fill="var(--quiet)"
            >{`${fitting(t.name, t.w * scale - 60)} hoisted`}</text>
          </g>
        ))}
        {!held &&
          ways.map((w, i) => (
            <polygon key={i} points={points(w)} data-way={i} fill="var(--blue)" fillOpacity={0.16} stroke="var(--blue)" strokeWidth={1} />
          ))}
        {movables.map((s) => {
          const now = held?.id === s.id ? { ...s, ...held } : s;
          const station = stations.find((x) => x.id === s.id);
          const assumed = (station?.assumed ?? []).some((f) => f === "w" || f === "d");
          const body = corners(now);
          const [fx1, fy1] = at(body[0]!);
          const [fx2, fy2] = at(body[1]!);
          const [cx, cy] = at([now.x + now.w / 2, now.y + now.d / 2]);
          const on = chosen === s.id;
          const wide = Math.max(Math.abs(fx2 - fx1), Math.abs(fy2 - fy1), s.d * scale);
          return (
            <g
              key={s.id}
              role="button"
              tabIndex={0}
              data-station={s.id}
              aria-pressed={on}
              aria-label={`${s.name}, ${length(s.w, round.units)} by ${length(s.d, round.units)}.${moves(s) ? " Arrows move it, r turns it, Enter puts it down." : " It stays where it is in this arrangement."}`}
              className={`place ${moves(s) ? "cursor-grab" : "cursor-pointer"}`}
              onPointerDown={(e) => press(e, s)}
              onPointerMove={(e) => drag(e, s)}
              onPointerUp={drop}
              onPointerCancel={() => {
                grip.current = undefined;
                setHeld(undefined);
              }}
              onKeyDown={(e) => key(e, s)}
              onBlur={() => held?.keyed && setHeld(undefined)}
            >
              <polygon
                points={points(body)}
                fill={s.kind === "station" ? tone(s.to) : "var(--steel)"}
                stroke={on ? "var(--blue)" : clash.has(s.id) ? "var(--red)" : "var(--ink)"}
                strokeWidth={on || clash.has(s.id) ? 2.6 : 1.1}
                strokeDasharray={s.ghost !== "" ? "2 5" : assumed ? "6 3" : s.under ? "1 3" : undefined}
                fillOpacity={s.ghost !== "" ? 0.25 : 1}
              />
              {s.own && layout.mode !== "" && <circle cx={fx1} cy={fy1} r={4} fill="var(--blue)" pointerEvents="none" />}
              <line x1={fx1} y1={fy1} x2={fx2} y2={fy2} stroke={on ? "var(--blue)" : "var(--ink)"} strokeWidth={4} />
              <text x={cx} y={cy} textAnchor="middle" dominantBaseline="central" fontSize={12.5} fill="var(--ink)" pointerEvents="none">
                {fitting(s.name, wide)}
              </text>
            </g>
          );
        })}
        {lux.map((l) => {
          const s = layout.shapes.find((x) => x.id === l.station);
          if (!s) return null;
          const [x, y] = at([s.x + s.w / 2, s.y + s.d / 2]);
          return (
            <text
              key={`lux-${l.station}`}
              x={x}
              y={y + 13}
              textAnchor="middle"
              dominantBaseline="central"
              fontSize={11.5}
              fontWeight={600}
              fill={l.evening < l.wants ? "var(--red)" : "var(--ink)"}
              stroke="var(--sheet)"
              strokeWidth={2.5}
              paintOrder="stroke"
              pointerEvents="none"
            >
              {Math.round(l.evening)} lx
            </text>
          );
        })}
        {leads.map((l, i) => (
          <polyline
            key={`lead-${i}`}
            points={points(l.path)}
            data-lead={i}
            fill="none"
            stroke={l.bad ? "var(--red)" : "var(--blue)"}
            strokeWidth={2.2}
            strokeDasharray={l.bad ? "7 4" : undefined}
            strokeLinejoin="round"
            pointerEvents="none"
          />
        ))}
        {legs.map((path, i) => (
          <polyline
            key={i}
            points={points(path)}
            data-leg={i}
            fill="none"
            stroke="var(--blue)"
            strokeWidth={2.2}
            strokeLinejoin="round"
            strokeOpacity={0.85}
            pointerEvents="none"
          />
        ))}
        {proposed?.moved.map((m) => {
          const s = layout.shapes.find((x) => x.id === m.id);
          if (!s) return null;
          const body = corners({ ...s, x: m.x, y: m.y, rot: m.rot });
          const [x, y] = at([m.x + s.w / 2, m.y + s.d / 2]);
          return (
            <g key={m.id} data-proposed={m.id} pointerEvents="none">
              <polygon points={points(body)} fill="var(--blue-wash)" fillOpacity={0.85} stroke="var(--blue)" strokeWidth={1.8} />
              <line
                x1={at(body[0]!)[0]}
                y1={at(body[0]!)[1]}
                x2={at(body[1]!)[0]}
                y2={at(body[1]!)[1]}
                stroke="var(--blue)"
                strokeWidth={4}
              />
              <text x={x} y={y} textAnchor="middle" dominantBaseline="central" fontSize={12} fill="var(--ink)">
                {fitting(m.name, Math.max(s.w, s.d) * scale)}
              </text>
            </g>
          );
        })}
        {played && (
          <g pointerEvents="none" data-testid="played">
            {played.standing.map((b) => (
              <polygon key={b.id} points={points(b.corners)} fill="var(--steel)" stroke="var(--ink)" strokeWidth={1.1} />
            ))}
            {played.path.map((g, i) => (
              <polygon key={i} points={points(g)} fill="none" stroke="var(--blue)" strokeWidth={0.8} strokeOpacity={0.5} />
            ))}
            {played.now && <polygon points={points(played.now)} fill="var(--blue-wash)" stroke="var(--blue)" strokeWidth={2.4} />}
          </g>
        )}
      </svg>
    </div>
  );
}
