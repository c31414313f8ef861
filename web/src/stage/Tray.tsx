import { useRef } from "react";
import type { Item, Round } from "../api/client";
import { useShown } from "../app/shown";
import { squares, uses } from "../units";
import { Empty } from "../ui/Empty";
import { Silhouette } from "./Silhouette";

interface TrayProps {
  round: Round;
  onHold?: (e: React.PointerEvent, item: Item) => void;
  onPlace: (item: Item) => void;
}

/** Tray holds what has no home yet, the biggest nuisance first. */
export function Tray({ round, onHold, onPlace }: TrayProps) {
  const { selected, select } = useShown();
  const list = useRef<HTMLUListElement>(null);
  const lost = round.items.filter((i) => i.homed < i.count).sort((a, b) => b.seconds - a.seconds || b.w * b.h - a.w * a.h);
  if (round.items.length === 0)
    return (
      <section aria-label="No home yet" className="min-w-0 flex-1 overflow-y-auto px-4">
        <Empty title="What has no home waits here" act="List what you own" to="/belongings">
          List your things, one a line. Each can then be dragged to a wall from here, or Hobrak finds it a home.
        </Empty>
      </section>
    );
  if (lost.length === 0)
    return (
      <section aria-label="No home yet" className="flex-1 px-4 py-3">
        <h2 className="text-base font-bold">Everything has a home</h2>
        <p className="text-quiet">
          Press <kbd>f</kbd> to see whether better homes can be found.
        </p>
      </section>
    );
  const wall = lost.reduce((sum, i) => sum + (i.count * i.w * i.h) / 1e6, 0);
  const onKey = (e: React.KeyboardEvent, item: Item) => {
    const buttons = [...(list.current?.querySelectorAll("button") ?? [])];
    const at = buttons.findIndex((b) => b === document.activeElement);
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: buttons.length - 1 }[e.key];
    if (to !== undefined) {
      e.preventDefault();
      buttons[to]?.focus();
      buttons[to]?.scrollIntoView({ block: "nearest", inline: "nearest" });
    }
    if (e.key === "Enter") {
      e.preventDefault();
      select({ kind: "item", id: item.id });
      onPlace(item);
    }
  };
  return (
    <section
      aria-label="No home yet"
      className="flex min-w-0 flex-1 flex-col pt-2.5 pb-1 max-md:mb-2 max-md:h-42 max-md:flex-none max-md:border-y max-md:border-line"
    >
      <h2 className="px-4 text-lead font-bold">
        No home yet{" "}
        <span className="ml-1 text-small font-normal text-quiet">
          {lost.length} things · {squares(wall, round.units)} if all of it hung
        </span>
      </h2>
      <ul
        ref={list}
        className="round-scroll m-0 flex min-h-0 flex-1 list-none items-stretch gap-1 overflow-x-auto px-3 pb-1"
        data-testid="tray"
      >
        {lost.map((item, i) => {
          const on = selected?.kind === "item" && selected.id === item.id;
          const k = Math.min(92 / item.w, 66 / item.h, 0.3);
          return (
            <li key={item.id} className="shrink-0">
              <button
                data-tray={item.id}
                tabIndex={on || (i === 0 && !lost.some((l) => l.id === selected?.id)) ? 0 : -1}
                aria-pressed={on}
                onKeyDown={(e) => onKey(e, item)}
                onPointerDown={(e) => onHold?.(e, item)}
                onClick={() => select({ kind: "item", id: item.id })}
                className={`flex h-full w-31 cursor-grab touch-pan-x flex-col justify-end gap-0.5 px-2 pt-1 pb-1.5 text-left select-none ${on ? "bg-blue-wash" : "hover:bg-sheet"}`}
              >
                <svg width={108} height={70} aria-hidden className="mb-0.5">
                  {Array.from({ length: Math.min(item.count, 6) }, (_, n) => (
                    <Silhouette
                      key={n}
                      kind={item.glyph}
                      x={n * Math.min(item.w * k + 3, (104 - item.w * k) / Math.max(1, Math.min(item.count, 6) - 1))}
                      y={69 - item.h * k}
                      w={item.w * k}
                      h={item.h * k}
                      own={item}
                    />
                  ))}
                </svg>
                <span className="narrow line-clamp-2 text-small leading-tight font-semibold">
                  {item.count > 1 ? `${item.count} × ` : ""}
                  {item.name}
                </span>
                <span className="narrow truncate text-fine text-quiet">{item.lies ? `lies in ${item.lies}` : uses(item.uses)}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
