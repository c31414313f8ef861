import { memo, useMemo, lazy, Suspense } from "react";
import type { FreeSpace, Item, Place, Round } from "../api/client";
import { shade, tintOf, type Lens } from "./lenses";
import { Silhouette } from "./Silhouette";
import { Frame, Standing, Tag } from "./Things";
import { Wall } from "./Wall";

// What the wall still takes is seen through one lens alone.
const FreeWallLayer = lazy(() => import("../free/FreeWallLayer").then((m) => ({ default: m.FreeWallLayer })));

interface DrawingProps {
  round: Round;
  top: number;
  px: number;
  studs: boolean;
  lens: Lens | undefined;
  moved: Set<string> | undefined;
  chosenPlace: string | undefined;
  /** the one wall that is shown, as the number of its elevation; all when there is none */
  only: number | undefined;
  /** a thing, or a place, is taken hold of */
  pick: (e: React.PointerEvent, item: Item) => void;
  press: ((e: React.PointerEvent, p: Place) => void) | undefined;
  choose: (item: Item) => void;
  choosePlace: (p: Place) => void;
  free: FreeSpace["free"] | undefined;
  /** the chosen region as area/wall/number */
  region: string | undefined;
  onRegion: (id: string) => void;
}

/** Drawing is everything that does not follow the pointer. */
export const Drawing = memo(function Drawing({
  round,
  top,
  px,
  studs,
  lens,
  moved,
  chosenPlace,
  only,
  pick,
  press,
  choose,
  choosePlace,
  free,
  region,
  onRegion,
}: DrawingProps) {
  const inPlace = useMemo(() => {
    const out = new Map<string, Item[]>();
    for (const i of round.items) {
      const list = out.get(i.place);
      if (list) list.push(i);
      else out.set(i.place, [i]);
    }
    return out;
  }, [round.items]);
  return (
    <>
      {round.elevations.map((s, i) => {
        if (only !== undefined && only !== i) return null;
        const places = round.places.filter((p) => p.elevation === i);
        const onWall = places.filter((p) => p.host === "");
        const things = round.things.filter((t) => t.elevation === i);
        const open = s.middle ? undefined : free?.walls.find((w) => w.area === s.area && w.id === s.id && w.claimed);
        const own = `${s.area}/${s.id}/`;
        const draw = (list: Place[]) =>
          list.map((p) => (
            <g key={p.id} data-place={p.id}>
              <g
                role="button"
                tabIndex={-1}
                aria-label={`${p.id} ${p.name}, ${p.items === 1 ? "1 thing" : `${p.items} things`}`}
                className="place"
                onPointerDown={(e) => press?.(e, p)}
                onClick={() => choosePlace(p)}
              >
                <Frame place={p} top={top} chosen={p.id === chosenPlace} />
              </g>
              {!p.closed && (
                <Contents
                  items={inPlace.get(p.id) ?? nothing}
                  where={p.id}
                  top={top}
                  lens={lens}
                  moved={moved}
                  pick={pick}
                  choose={choose}
                />
              )}
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
              <Suspense>
                <FreeWallLayer
                  wall={open}
                  top={top}
                  px={px}
                  units={round.units}
                  chosen={region?.startsWith(own) ? Number(region.slice(own.length)) : undefined}
                  onChoose={(n) => onRegion(own + String(n))}
                />
              </Suspense>
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

interface ContentsProps {
  items: Item[];
  where: string;
  top: number;
  lens: Lens | undefined;
  moved: Set<string> | undefined;
  pick: (e: React.PointerEvent, item: Item) => void;
  choose: (item: Item) => void;
}

const nothing: Item[] = [];

/** Contents are the things of a place; drawn again only when one of them is otherwise. */
const Contents = memo(
  function Contents({ items, where, top, lens, moved, pick, choose }: ContentsProps) {
    return (
      <>
        {items.map((item) => (
          <g
            key={item.id}
            data-item={item.id}
            role="button"
            tabIndex={-1}
            aria-label={`${item.count > 1 ? `${item.count} × ` : ""}${item.name}, in ${where}`}
            className="thing"
            onPointerDown={(e) => pick(e, item)}
            onClick={() => choose(item)}
          >
            <title>{item.name}</title>
            {[...item.pieces]
              .sort((a, b) => Number(b.behind) - Number(a.behind))
              .map((q, k) => (
                <g key={k} opacity={q.behind ? 0.6 : undefined}>
                  <rect x={q.x} y={top - q.z - q.h} width={q.w} height={q.h} fill="none" pointerEvents="all" />
                  <Silhouette
                    kind={item.glyph}
                    x={q.x}
                    y={top - q.z - q.h}
                    w={q.w}
                    h={q.h}
                    tint={tintOf(lens, item)}
                    outline={item.out}
                    chalk={moved?.has(item.id)}
                    own={item}
                  />
                </g>
              ))}
          </g>
        ))}
      </>
    );
  },
  (a, b) =>
    a.items.length === b.items.length &&
    a.items.every((x, i) => x === b.items[i]) &&
    a.top === b.top &&
    a.lens === b.lens &&
    a.moved === b.moved &&
    a.pick === b.pick &&
    a.choose === b.choose,
);
