import { Thumb } from "../photo/Thumb";
import { pictured, Spot } from "../stage/Spot";
import type { Found, Round } from "../api/client";

/** Hits are the answers of the find field: what it is, its address, who has it, what goes with it. */
export default function Hits({
  hits,
  round,
  chosen,
  none,
  list,
  onTake,
  onPress,
  onPoint,
}: {
  hits: readonly Found[];
  round: Round;
  chosen: number;
  /** an answer has come, also when it is that there is nothing */
  none: boolean;
  /** id of the list */
  list: string;
  onTake: (f: Found) => void;
  /** take it, or put it back */
  onPress: (f: Found) => void;
  onPoint: (i: number) => void;
}) {
  return (
    <>
      {hits.length === 0 && none && (
        <li role="option" aria-selected={false} className="px-3 py-2 text-quiet">
          Nothing is called that, nor nearly. Try a family or a place.
        </li>
      )}
      {hits.map((h, i) => (
        <li
          key={h.kind + h.id}
          id={`${list}-${i}`}
          role="option"
          aria-selected={i === chosen}
          onMouseDown={(e) => {
            e.preventDefault();
            if ((e.target as Element).closest("[data-take]")) onPress(h);
            else onTake(h);
          }}
          onMouseEnter={() => onPoint(i)}
          className={`flex cursor-pointer flex-wrap items-baseline justify-between gap-x-3 px-3 py-1.5 ${i === chosen ? "bg-blue-wash" : ""}`}
        >
          {h.photo && <Thumb name={h.photo} of={h.name} className="h-9 w-9 shrink-0 self-center" />}
          <span className="min-w-0 flex-1">
            <b>{h.name || h.id}</b>
            {!h.sure && <span className="text-small text-quiet"> (nearly)</span>}
            <span className="block truncate text-small text-quiet">
              {h.kind === "item" ? h.where || "no home yet" : `${h.kind}${h.where ? ` · ${h.where}` : ""}`}
              {h.count > 1 && h.home < h.count && (
                <span className="block">
                  {h.home} at home, {h.count - h.home} out
                </span>
              )}
              {h.out.slice(0, 2).map((o) => (
                <b key={o.id} className={`block ${o.overdue ? "text-red" : "text-ink"}`}>
                  {o.to ? `lent to ${o.to}` : o.on ? `out: on ${o.on}` : "out"}
                  {o.days > 0 && `, ${o.days === 1 ? "since yesterday" : `${o.days} days`}`}
                </b>
              ))}
              {h.with.length > 0 && (
                <span className="block">
                  with it: {h.with.map((w) => (w.out ? `${w.name} (out)` : `${w.name} ${w.address}`)).join(", ")}
                </span>
              )}
              {h.set_up !== "" && <span className="block">{h.set_up}</span>}
              {h.now !== "" && <b className="block text-red">{h.now}</b>}
              {h.going !== "" && <span className="block text-blue">{h.going}</span>}
            </span>
          </span>
          <span className="shrink-0 text-right">
            <b className="block text-blue">{h.address || (h.kind === "kit" ? "" : "—")}</b>
            {(h.kind === "kit" || (h.kind === "item" && h.where !== "wished for")) && (
              <span data-take title="Shift Enter" className="text-small font-semibold text-blue hover:underline thumb:min-h-11 thumb:px-2">
                {h.kind === "item" && h.home === 0 ? "Back" : "Take"}
              </span>
            )}
          </span>
          {i === chosen && h.address !== "" && pictured(round, h.address) && (
            <span className="block w-full pt-1.5">
              <Spot round={round} id={h.address} marks={marks(round, h)} max="8.5rem" />
            </span>
          )}
        </li>
      ))}
    </>
  );
}

/** marks are where on the wall the pieces of what was found are seen. */
function marks(round: Round, h: Found) {
  const item = h.kind === "item" ? round.items.find((i) => i.id === h.id && i.place === h.address && !i.hidden) : undefined;
  return item?.pieces ?? [];
}
