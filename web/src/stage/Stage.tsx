import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { FreeSpace, Item, Place, Round } from "../api/client";
import { useShown } from "../app/shown";
import { FreeWallLayer } from "../free/FreeWallLayer";
import { Figure } from "./Figure";
import { roundSize } from "./geometry";
import { lenses, shade, tintOf, type Lens } from "./lenses";
import { Silhouette } from "./Silhouette";
import { Frame, Standing, Tag } from "./Things";
import { Patterns, Wall } from "./Wall";
import type { Proposed } from "../places/Places";
import type { Drag } from "./useDrag";
import { length } from "../units";

interface StageProps {
  round: Round;
  /** items drawn in the chalk-line colour: what a plan moves */
  moved?: Set<string>;
  drag: Drag;
  /** free space, while its lens is on */
  free?: FreeSpace["free"];
  /** where a place that is being made would go */
  proposed?: Proposed & { bad?: boolean };
  /** a place is taken hold of */
  onCarry?: (event: React.PointerEvent, place: Place) => void;
  onPick: (event: React.PointerEvent, item: Item, scale: number) => void;
}

/** Stage is the round: all walls side by side, true to scale, scrolled sideways. */
export function Stage({ round, moved, drag, free, proposed, onCarry, onPick }: StageProps) {
  const { selected, select, lens: lensId, studs, view, setView } = useShown();
  const scroller = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(480);
  const size = useMemo(() => roundSize(round), [round]);
  const scale = (height - 14) / size.height; // px per mm; the scroll bar takes the rest
  const px = 1 / scale;
  const lens = lenses.find((l) => l.id === lensId);

  useLayoutEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setHeight(box.clientHeight));
    watch.observe(box);
    return () => watch.disconnect();
  }, []);

  // Tell the tape which part is on screen.
  const tell = useCallback(() => {
    const box = scroller.current;
    if (box) setView({ from: box.scrollLeft / scale, to: (box.scrollLeft + box.clientWidth) / scale });
  }, [scale, setView]);
  useEffect(() => {
    tell();
    window.addEventListener("resize", tell);
    return () => window.removeEventListener("resize", tell);
  }, [tell]);

  // Go where the tape, a key or a search asks for.
  useEffect(() => {
    const box = scroller.current;
    if (!box || view.goal === undefined) return;
    const calm = window.matchMedia("(prefers-reduced-motion: reduce)").matches || view.jump;
    box.scrollTo({ left: view.goal * scale, behavior: calm ? "auto" : "smooth" });
  }, [view.goal, view.stamp, view.jump, scale]);

  const chosenPlace =
    selected?.kind === "place" ? selected.id : round.items.find((i) => selected?.kind === "item" && i.id === selected.id)?.place;
  const mark = selected?.kind === "item" ? round.items.find((i) => i.id === selected.id) : undefined;
  const pick = useCallback((e: React.PointerEvent, item: Item) => onPick(e, item, scale), [onPick, scale]);
  const onRegion = useCallback((id: string) => select({ kind: "free", id }), [select]);
  const choosePlace = useCallback(
    (e: React.PointerEvent, p: Place) => {
      select({ kind: "place", id: p.id });
      onCarry?.(e, p);
    },
    [select, onCarry],
  );

  const onKey = (e: React.KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
    if (!step) return;
    e.preventDefault();
    // From thing to thing as they hang from left to right.
    const along = round.items
      .filter((i) => i.elevation >= 0 && i.pieces.length > 0)
      .sort((a, b) => leftOf(round, a) - leftOf(round, b) || a.id.localeCompare(b.id));
    const at = along.findIndex((i) => mark?.id === i.id);
    const next = along[at < 0 ? (step > 0 ? 0 : along.length - 1) : at + step];
    if (next) select({ kind: "item", id: next.id }, true);
  };

  return (
    <div className="stage relative flex min-h-0 flex-1" data-testid="stage">
      <Figure round={round} scale={scale} top={size.top} />
      <div
        ref={scroller}
        onScroll={tell}
        onKeyDown={onKey}
        tabIndex={0}
        role="region"
        aria-label="The round: all walls clockwise from the main door. Arrow keys go from thing to thing."
        className="round-scroll min-w-0 flex-1 overflow-x-auto overflow-y-hidden"
      >
        <svg
          data-testid="round"
          data-scale={scale}
          width={size.width * scale}
          height={size.height * scale}
          viewBox={`0 0 ${size.width} ${size.height}`}
          role="img"
          aria-label={`${round.name}: the round`}
        >
          <Patterns />
          <PegPattern />
          <Drawing
            round={round}
            top={size.top}
            px={px}
            studs={studs}
            free={free}
            region={selected?.kind === "free" ? selected.id : undefined}
            onRegion={onRegion}
            lens={lens}
            moved={moved}
            chosenPlace={chosenPlace}
            pick={pick}
            choosePlace={choosePlace}
          />
          {mark && <Mark round={round} item={mark} top={size.top} px={px} />}
          {proposed && <Outline round={round} proposed={proposed} top={size.top} />}
          {drag.target && <Landing round={round} drag={drag} top={size.top} />}
        </svg>
      </div>
    </div>
  );
}

function leftOf(round: Round, item: Item): number {
  return (round.elevations[item.elevation]?.offset ?? 0) + (item.pieces[0]?.x ?? 0);
}

interface DrawingProps {
  round: Round;
  top: number;
  px: number;
  studs: boolean;
  lens: Lens | undefined;
  moved: Set<string> | undefined;
  chosenPlace: string | undefined;
  pick: (e: React.PointerEvent, item: Item) => void;
  choosePlace: (e: React.PointerEvent, p: Place) => void;
  free: FreeSpace["free"] | undefined;
  /** the chosen region as area/wall/number */
  region: string | undefined;
  onRegion: (id: string) => void;
}

/** Drawing is everything that does not follow the pointer. */
const Drawing = memo(function Drawing({
  round,
  top,
  px,
  studs,
  lens,
  moved,
  chosenPlace,
  pick,
  choosePlace,
  free,
  region,
  onRegion,
}: DrawingProps) {
  return (
    <>
      {round.elevations.map((s, i) => {
        const places = round.places.filter((p) => p.elevation === i);
        const onWall = places.filter((p) => p.host === "");
        const things = round.things.filter((t) => t.elevation === i);
        const open = s.middle ? undefined : free?.walls.find((w) => w.area === s.area && w.id === s.id && w.claimed);
        const own = `${s.area}/${s.id}/`;
        const draw = (list: Place[]) =>
          list.map((p) => (
            <g key={p.id} data-place={p.id}>
              <g onPointerDown={(e) => choosePlace(e, p)} style={{ cursor: "pointer" }}>
                <Frame place={p} top={top} chosen={p.id === chosenPlace} />
              </g>
              {!p.closed && <Contents round={round} place={p} top={top} lens={lens} moved={moved} pick={pick} />}
              {shade(lens, p) && (
                <rect
                  data-shade={p.id}
                  x={p.x}
                  y={top - p.z - p.h}
                  width={p.w}
                  height={p.h}
                  fill={shade(lens, p)}
                  fillOpacity={0.42}
                  stroke={shade(lens, p)}
                  strokeWidth={1.6}
                  vectorEffect="non-scaling-stroke"
                  pointerEvents="none"
                />
              )}
              <Tag place={p} top={top} px={px} chosen={p.id === chosenPlace} />
            </g>
          ));
        return (
          <g key={s.area + s.id + String(s.middle)} transform={`translate(${s.offset} 0)`} data-elevation={s.id || "middle"}>
            <Wall elevation={s} top={top} px={px} studs={studs} />
            {open && (
              <FreeWallLayer
                wall={open}
                top={top}
                px={px}
                units={round.units}
                chosen={region?.startsWith(own) ? Number(region.slice(own.length)) : undefined}
                onChoose={(n) => onRegion(own + String(n))}
              />
            )}
            {draw(onWall)}
            {things.map((t) => (
              <g key={t.id} data-thing={t.id}>
                <Standing thing={t} top={top} px={px} />
                {draw(places.filter((p) => p.host === t.id))}
              </g>
            ))}
          </g>
        );
      })}
    </>
  );
});

const Contents = memo(function Contents({
  round,
  place,
  top,
  lens,
  moved,
  pick,
}: {
  round: Round;
  place: Place;
  top: number;
  lens: Lens | undefined;
  moved: Set<string> | undefined;
  pick: (e: React.PointerEvent, item: Item) => void;
}) {
  const here = round.items.filter((i) => i.place === place.id);
  return (
    <>
      {here.map((item) => (
        <g key={item.id} data-item={item.id} onPointerDown={(e) => pick(e, item)} style={{ cursor: "grab", touchAction: "none" }}>
          <title>{item.name}</title>
          {[...item.pieces]
            .sort((a, b) => Number(b.behind) - Number(a.behind))
            .map((q, k) => (
              <g key={k} opacity={q.behind ? 0.6 : 1}>
                <rect x={q.x} y={top - q.z - q.h} width={q.w} height={q.h} fill="transparent" />
                <Silhouette
                  kind={item.glyph}
                  x={q.x}
                  y={top - q.z - q.h}
                  w={q.w}
                  h={q.h}
                  tint={tintOf(lens, item)}
                  outline={item.out}
                  chalk={moved?.has(item.id)}
                />
              </g>
            ))}
        </g>
      ))}
    </>
  );
});

/** Mark rings the selected thing and gives its width and height as dimension lines. */
function Mark({ round, item, top, px }: { round: Round; item: Item; top: number; px: number }) {
  const s = round.elevations[item.elevation];
  if (!s || item.pieces.length === 0) return null;
  const hidden = item.hidden;
  const place = round.places.find((p) => p.id === item.place);
  const boxes = hidden && place ? [{ x: place.x, z: place.z, w: place.w, h: place.h }] : item.pieces;
  const left = Math.min(...boxes.map((b) => b.x));
  const right = Math.max(...boxes.map((b) => b.x + b.w));
  const low = Math.min(...boxes.map((b) => b.z));
  const high = Math.max(...boxes.map((b) => b.z + b.h));
  const m = 5 * px;
  return (
    <g transform={`translate(${s.offset} 0)`} pointerEvents="none" data-testid="mark">
      <rect
        x={left - m}
        y={top - high - m}
        width={right - left + 2 * m}
        height={high - low + 2 * m}
        fill="none"
        stroke="var(--blue)"
        strokeWidth={2.4}
        vectorEffect="non-scaling-stroke"
      />
      {/* the height above the floor, as a dimension line with ticks */}
      <path
        d={`M${right + 3 * m} ${top}V${top - low}M${right + 2 * m} ${top}h${2 * m}M${right + 2 * m} ${top - low}h${2 * m}`}
        stroke="var(--blue)"
        strokeWidth={1}
        strokeDasharray="none"
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
      <text
        x={right + 4.5 * m}
        y={top - low / 2}
        fontSize={12.5 * px}
        fontWeight={600}
        fill="var(--blue)"
        paintOrder="stroke"
        stroke="var(--paper)"
        strokeWidth={4 * px}
      >
        {length(low, round.units)}
      </text>
    </g>
  );
}

/** Outline is where a place that is being made would go. */
function Outline({ round, proposed: p, top }: { round: Round; proposed: NonNullable<StageProps["proposed"]>; top: number }) {
  const s = round.elevations.find((s) => s.area === p.area && s.id === p.wall && !s.middle);
  if (!s) return null;
  return (
    <g transform={`translate(${s.offset} 0)`} pointerEvents="none" data-testid="proposed">
      <rect
        x={p.x}
        y={top - p.z - p.h}
        width={p.w}
        height={p.h}
        fill={p.bad ? "var(--red)" : "var(--blue)"}
        fillOpacity={0.18}
        stroke={p.bad ? "var(--red)" : "var(--blue)"}
        strokeWidth={2.4}
        strokeDasharray={p.bad ? "2 4" : "8 4"}
        vectorEffect="non-scaling-stroke"
      />
    </g>
  );
}

/** Landing shows where a dragged thing would hang, or where it may not. */
function Landing({ round, drag, top }: { round: Round; drag: Drag; top: number }) {
  const t = drag.target;
  const p = round.places.find((x) => x.id === t?.place);
  const s = p && round.elevations[p.elevation];
  if (!t || !p || !s) return null;
  const front = t.answer?.front as [number, number, number, number] | undefined;
  const colour = t.answer ? (t.answer.allowed ? "var(--blue)" : "var(--red)") : "var(--quiet)";
  return (
    <g transform={`translate(${s.offset} 0)`} pointerEvents="none" data-testid="landing" data-allowed={t.answer?.allowed}>
      <rect
        x={p.x}
        y={top - p.z - p.h}
        width={p.w}
        height={p.h}
        fill={colour}
        fillOpacity={0.1}
        stroke={colour}
        strokeWidth={2.4}
        strokeDasharray={t.answer?.allowed ? undefined : "6 4"}
        vectorEffect="non-scaling-stroke"
      />
      {front && (
        <rect
          x={p.x + front[0]}
          y={top - p.z - front[1] - front[3]}
          width={front[2]}
          height={front[3]}
          fill="var(--blue)"
          fillOpacity={0.25}
          stroke="var(--blue)"
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      )}
    </g>
  );
}

function PegPattern() {
  return (
    <defs>
      <pattern id="pegs" width="50.8" height="50.8" patternUnits="userSpaceOnUse">
        <circle cx="25" cy="25" r="5" fill="var(--wood-line)" fillOpacity="0.55" />
      </pattern>
    </defs>
  );
}
