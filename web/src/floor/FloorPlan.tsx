import { useEffect, useRef, useState } from "react";
import { api, unwrap, type Round, type Station, type StationTrial } from "../api/client";
import { useBox } from "../ui/useBox";
import { length } from "../units";
import { scaled } from "./scale";
import { corners } from "./useFloor";

interface Props {
  round: Round;
  stations: readonly Station[];
  chosen: string | undefined;
  /** strips of floor that are free for a piece at the chosen machine */
  ways: readonly (readonly (readonly number[])[])[];
  onChoose: (id: string | undefined) => void;
  /** it is put down somewhere */
  onMove: (id: string, floor: [number, number], rot: number) => void;
  /** what the core says of the spot a station is held over */
  onTrial: (trial: StationTrial | undefined) => void;
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

/** FloorPlan is the floor to scale with what stands there. Stations are dragged, or moved by arrows and turned by r. */
export function FloorPlan({ round, stations, chosen, ways, onChoose, onMove, onTrial }: Props) {
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
        const trial = unwrap(
          await api.POST("/api/v1/stations/{id}/try", { params: { path: { id: h.id } }, body: { floor: [h.x, h.y], rot: h.rot } }),
        );
        onTrial(trial);
      } catch {
        onTrial(undefined);
      }
      a.asking = false;
      void ask();
    };
    void ask();
  }, [held, onTrial]);

  if (!room) return null;
  const { s: scale, left, right, low, high, at, points, mm: onFloor } = scaled(room.corners, box, pad);
  const mm = (e: React.PointerEvent) => {
    const r = ref.current?.getBoundingClientRect();
    return onFloor(e.clientX - (r?.left ?? 0), e.clientY - (r?.top ?? 0));
  };
  const others = round.plan.things.filter((t) => !t.station);

  const press = (e: React.PointerEvent, s: Station) => {
    if (e.button !== 0) return;
    const [x, y] = mm(e);
    grip.current = { id: s.id, dx: x - s.x, dy: y - s.y, x: e.clientX, y: e.clientY, moved: false };
    e.currentTarget.setPointerCapture(e.pointerId);
  };
  const drag = (e: React.PointerEvent, s: Station) => {
    const g = grip.current;
    if (!g || g.id !== s.id) return;
    if (!g.moved && Math.hypot(e.clientX - g.x, e.clientY - g.y) < 5) return;
    g.moved = true;
    const [x, y] = mm(e);
    const to = (v: number) => Math.round(v / small) * small;
    setHeld({ id: s.id, x: to(x - g.dx), y: to(y - g.dy), rot: s.rot ?? 0, keyed: false });
  };
  const drop = () => {
    const g = grip.current;
    grip.current = undefined;
    if (g?.moved && held) onMove(held.id, [held.x, held.y], held.rot);
    // What is chosen opens beside the plan, which must not move under the pointer.
    else if (g) onChoose(g.id);
    setHeld(undefined);
  };
  const key = (e: React.KeyboardEvent, s: Station) => {
    const by = e.shiftKey ? large : small;
    const now = held?.id === s.id ? held : { id: s.id, x: s.x, y: s.y, rot: s.rot ?? 0, keyed: true };
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
            <title>{t.id}</title>
          </polygon>
        ))}
        {!held &&
          ways.map((w, i) => (
            <polygon key={i} points={points(w)} data-way={i} fill="var(--blue)" fillOpacity={0.16} stroke="var(--blue)" strokeWidth={1} />
          ))}
        {stations.map((s) => {
          const now = held?.id === s.id ? { ...s, ...held } : s;
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
              aria-label={`${s.name}, ${length(s.w, round.units)} by ${length(s.d, round.units)}. Arrows move it, r turns it, Enter puts it down.`}
              className="place cursor-grab"
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
                fill="var(--wood)"
                stroke={on ? "var(--blue)" : "var(--ink)"}
                strokeWidth={on ? 2.6 : 1.1}
                strokeDasharray={(s.assumed ?? []).some((f) => f === "w" || f === "d") ? "6 3" : undefined}
              />
              <line x1={fx1} y1={fy1} x2={fx2} y2={fy2} stroke={on ? "var(--blue)" : "var(--ink)"} strokeWidth={4} />
              <text x={cx} y={cy} textAnchor="middle" dominantBaseline="central" fontSize={12.5} fill="var(--ink)" pointerEvents="none">
                {fitting(s.name, wide)}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
