import { useLayoutEffect, useRef } from "react";
import type { Round } from "../api/client";
import { roundSize } from "./geometry";
import { goTo, seeView, useView, watchView } from "./view";

/** Tape is the whole round as a strip with a tick every half metre; the window is what is on screen. */
export function Tape({ round }: { round: Round }) {
  const box = useRef<HTMLDivElement>(null);
  const seen = useRef<HTMLDivElement>(null);
  const { width } = roundSize(round);
  const pc = (x: number) => `${(100 * x) / width}%`;
  const ticks = Math.floor(width / 500);

  const jump = (clientX: number, calm: boolean) => {
    const r = box.current?.getBoundingClientRect();
    const view = seeView();
    if (r) goTo(((clientX - r.left) / r.width) * width - (view.to - view.from) / 2, calm);
  };
  const wallAt = useView((v) => round.elevations.findLastIndex((s) => s.offset <= v.from + 1));
  // The window of the tape follows every frame of scrolling, without React.
  useLayoutEffect(() => {
    const draw = () => {
      const { from, to } = seeView();
      if (seen.current) {
        seen.current.style.left = `${(100 * from) / width}%`;
        seen.current.style.width = `${(100 * (Math.min(width, to) - from)) / width}%`;
      }
      box.current?.setAttribute("aria-valuenow", String(Math.round(Math.min(width, from))));
    };
    draw();
    return watchView(draw);
  }, [width]);
  return (
    <div className="px-4 pt-2">
      <div
        ref={box}
        role="slider"
        tabIndex={0}
        aria-label="Where in the round"
        aria-valuemin={0}
        aria-valuemax={Math.round(width)}
        aria-valuenow={0}
        aria-valuetext={`from ${round.elevations[wallAt]?.title ?? "the beginning"}`}
        className="relative h-8 touch-none overflow-hidden border border-line bg-sheet select-none"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          jump(e.clientX, true);
        }}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && jump(e.clientX, true)}
        onKeyDown={(e) => {
          const step = { ArrowLeft: -500, ArrowRight: 500, PageUp: -2000, PageDown: 2000, Home: -width, End: width }[e.key];
          if (step) {
            e.preventDefault();
            const view = seeView();
            goTo(Math.min(width - (view.to - view.from), view.from + step), true);
          }
        }}
      >
        <svg className="absolute inset-0 h-full w-full" aria-hidden preserveAspectRatio="none" viewBox={`0 0 ${width} 32`}>
          {Array.from({ length: ticks + 1 }, (_, i) => (
            <line
              key={i}
              x1={i * 500}
              x2={i * 500}
              y1={0}
              y2={i % 2 === 0 ? 9 : 5}
              stroke="var(--quiet)"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {round.elevations.map((s) => (
            <line
              key={s.offset}
              x1={s.offset}
              x2={s.offset}
              y1={0}
              y2={32}
              stroke="var(--ink)"
              strokeWidth={1.4}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </svg>
        {round.elevations.map((s) => (
          <span
            key={s.offset}
            className="absolute bottom-0 -translate-x-1/2 text-small font-bold whitespace-nowrap"
            style={{ left: pc(s.offset + s.length / 2) }}
          >
            {s.middle ? <span className="narrow font-normal">in the room</span> : s.id}
          </span>
        ))}
        <div ref={seen} className="absolute -inset-y-px border-2 border-blue bg-blue/10" />
      </div>
    </div>
  );
}
