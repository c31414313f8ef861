import { mine } from "../api/base";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { FreeSpace, Item, Place, Round } from "../api/client";
import { useShown } from "../app/shown";
import type { Proposed } from "../places/Places";
import { Drawing } from "./Drawing";
import { Figure } from "./Figure";
import { roundSize } from "./geometry";
import { lenses } from "./lenses";
import { Outlets } from "./Outlets";
import { Landing, Mark, Outline } from "./marks";
import type { Carried } from "./useDrag";
import { seeView, setView, useView } from "./view";
import { stepFrom } from "./walk";
import { Patterns } from "./Wall";
import { keep } from "../app/stored";

interface StageProps {
  round: Round;
  /** the one wall that is shown, as the number of its elevation; all of them side by side when there is none */
  only?: number;
  /** items drawn in the chalk-line colour: what a plan moves */
  moved?: Set<string>;
  drag?: Carried;
  /** free space, while its lens is on */
  free?: FreeSpace["free"];
  /** of the shop that is shown */
  revision: number;
  /** where a place that is being made would go */
  proposed?: Proposed & { bad?: boolean };
  /** a thing, or a place, is taken hold of */
  onHold?: (event: React.PointerEvent, item: Item) => void;
  onCarry?: (event: React.PointerEvent, place: Place) => void;
}

const kept = mine("kept view");

/** Stage is the round: all walls side by side, true to scale, scrolled sideways. */
export function Stage({ round, revision, only, moved, drag, free, proposed, onHold, onCarry }: StageProps) {
  const { selected, select, lens: lensId, studs } = useShown();
  const scroller = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(480);
  const size = useMemo(() => roundSize(round), [round]);
  const wall = only === undefined ? undefined : round.elevations[only];
  const from = wall?.offset ?? 0;
  const width = wall?.length ?? size.width;
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
    if (box) setView(from + box.scrollLeft / scale, from + (box.scrollLeft + box.clientWidth) / scale);
  }, [scale, from]);
  const begun = useRef(false);
  useEffect(() => {
    const box = scroller.current;
    if (box && !begun.current) {
      // Where one was, on another screen or before a reload.
      const last = seeView().stamp > 0 ? seeView().from : Number(sessionStorage.getItem(kept) ?? 0);
      box.scrollLeft = (last - from) * scale;
      begun.current = true;
    }
    tell();
    const leave = () => keep(() => sessionStorage, kept, String(Math.round(seeView().from)));
    window.addEventListener("resize", tell);
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("resize", tell);
      window.removeEventListener("pagehide", leave);
    };
  }, [tell, from, scale]);

  // Go where the tape, a key or a search asks for.
  const stamp = useView((v) => v.stamp);
  useEffect(() => {
    const box = scroller.current;
    const { goal, jump } = seeView();
    if (!box || goal === undefined) return;
    const calm = window.matchMedia("(prefers-reduced-motion: reduce)").matches || jump;
    box.scrollTo({ left: (goal - from) * scale, behavior: calm ? "auto" : "smooth" });
  }, [stamp, scale, from]);

  const chosenPlace =
    selected?.kind === "place" ? selected.id : round.items.find((i) => selected?.kind === "item" && i.id === selected.id)?.place;
  const mark = selected?.kind === "item" ? round.items.find((i) => i.id === selected.id) : undefined;
  const hold = useCallback((e: React.PointerEvent, item: Item) => onHold?.(e, item), [onHold]);
  const onRegion = useCallback((id: string) => select({ kind: "free", id }), [select]);
  const choose = useCallback((item: Item) => select({ kind: "item", id: item.id }), [select]);
  const choosePlace = useCallback((p: Place) => select({ kind: "place", id: p.id }), [select]);

  const onKey = (e: React.KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    const next = stepFrom(round, selected, e.key);
    if (!next) return;
    e.preventDefault();
    select(next, true, true);
  };
  // The focus goes with what is selected, for who hears the stage instead of seeing it.
  useEffect(() => {
    const box = scroller.current;
    if (!box || !selected || !box.contains(document.activeElement)) return;
    const name =
      selected.kind === "item" ? `[data-item="${CSS.escape(selected.id)}"]` : `[data-place="${CSS.escape(selected.id)}"] > .place`;
    box.querySelector<SVGElement>(name)?.focus({ preventScroll: true });
  }, [selected]);

  return (
    <div className="stage relative flex min-h-0 flex-1" data-testid="stage">
      {only === undefined && <Figure round={round} scale={scale} top={size.top} />}
      <div
        ref={scroller}
        onScroll={tell}
        onKeyDown={onKey}
        tabIndex={0}
        role="region"
        aria-label={`${wall ? wall.title : "The round: all walls clockwise from the main door"}. Left and right go from thing to thing or from place to place, up to the place a thing is in, down into a place, Page Down to the next wall.`}
        className="round-scroll min-w-0 flex-1 overflow-x-auto overflow-y-hidden"
      >
        <svg
          data-testid="round"
          data-scale={scale}
          data-from={from}
          width={width * scale}
          height={size.height * scale}
          viewBox={`${from} 0 ${width} ${size.height}`}
          role="group"
          aria-label={`${round.name}: the round`}
        >
          <Patterns />
          <Drawing
            round={round}
            only={only}
            top={size.top}
            px={px}
            studs={studs}
            free={free}
            region={selected?.kind === "free" ? selected.id : undefined}
            onRegion={onRegion}
            lens={lens}
            moved={moved}
            chosenPlace={chosenPlace}
            pick={hold}
            press={onCarry}
            choose={choose}
            choosePlace={choosePlace}
          />
          {lensId === "supply" && <Outlets round={round} revision={revision} only={only} top={size.top} px={px} />}
          {mark && <Mark round={round} item={mark} top={size.top} px={px} />}
          {proposed && <Outline round={round} proposed={proposed} top={size.top} />}
          {drag?.target && <Landing round={round} drag={drag} top={size.top} />}
        </svg>
      </div>
    </div>
  );
}
