import type { ReactNode } from "react";
import type { Advice, Item } from "../api/client";
import { litres, seconds, size, squares, type Units, percent, patch } from "../units";
import { useResolve, useSet } from "./useList";
import { useUnits } from "../app/useUnits";
import { useDone } from "../app/shop";

/** Topic is what the sheet beside the list is about. */
export type Topic = "measure" | "alike" | "families" | "dust";

/** topics of the advice with how much there is of each; what there is nothing of is left out. */
export function topics(a: Advice | undefined, dustSaid: boolean, units: Units): { id: Topic; says: ReactNode }[] {
  if (!a) return [];
  const { doubts, alike, families, seldom } = a;
  return [
    ...(doubts.sizes > 0
      ? [
          {
            id: "measure" as const,
            says: (
              <>
                {doubts.sizes} {doubts.sizes === 1 ? "size" : "sizes"} assumed;{" "}
                <b>
                  {doubts.first === 1 ? "this one matters most: measure it first" : `these ${doubts.first} matter most: measure them first`}
                </b>
              </>
            ),
          },
        ]
      : []),
    ...(alike.length > 0
      ? [{ id: "alike" as const, says: alike.length === 1 ? "1 possible duplicate" : `${alike.length} possible duplicates` }]
      : []),
    ...(families.length > 0
      ? [{ id: "families" as const, says: families.length === 1 ? "1 family suggested" : `${families.length} families suggested` }]
      : []),
    ...(seldom.pieces > 0 && !dustSaid
      ? [
          {
            id: "dust" as const,
            says: `${Math.max(1, Math.round(100 * seldom.share))} % used less than once a year${seldom.wall >= 0.05 ? `, on ${squares(seldom.wall, units)} of wall` : ""}`,
          },
        ]
      : []),
  ];
}

interface Props {
  topic: Topic;
  advice: Advice;
  items: Item[];
  revision: number;
  units: Units;
  /** shows a thing in the list */
  onGo: (id: string) => void;
  onClose: () => void;
  onDustSaid: () => void;
}

/** AdviceSheet says in full what one topic is about, with what can be done. */
export function AdviceSheet({ topic, advice, items, revision, units, onGo, onClose, onDustSaid }: Props) {
  const name = (id: string) => items.find((i) => i.id === id)?.name ?? id;
  const titles: Record<Topic, string> = { measure: "Measure first", alike: "Duplicates?", families: "Families", dust: "Gathering dust" };
  return (
    <aside
      className="round-scroll flex w-75 shrink-0 max-md:fixed max-md:inset-x-0 max-md:bottom-12 max-md:z-30 max-md:max-h-[60dvh] max-md:w-auto flex-col gap-2 overflow-y-auto border border-line bg-sheet px-4 py-3"
      aria-label={titles[topic]}
      tabIndex={0}
      data-testid="advice"
    >
      <div className="flex items-baseline justify-between">
        <h2 className="text-head font-bold">{titles[topic]}</h2>
        <button className="font-semibold text-blue hover:underline" onClick={onClose}>
          Close
        </button>
      </div>
      {topic === "measure" && <Measure advice={advice} name={name} onGo={onGo} />}
      {topic === "alike" && <Twice advice={advice} items={items} units={units} revision={revision} onGo={onGo} />}
      {topic === "families" && <Families advice={advice} name={name} revision={revision} onGo={onGo} />}
      {topic === "dust" && <Dust advice={advice} name={name} onGo={onGo} onDustSaid={onDustSaid} />}
    </aside>
  );
}

const sides: Record<string, string> = { w: "width", h: "height", d: "depth", kg: "weight" };

/** of says what is assumed of a thing in few words. */
function of(fields: string[]): string {
  const all = ["w", "h", "d"].every((f) => fields.includes(f));
  return [...(all ? ["size"] : []), ...fields.filter((f) => !all || f === "kg").map((f) => sides[f] ?? f)].join(", ");
}

function Measure({ advice, name, onGo }: { advice: Advice; name: (id: string) => string; onGo: (id: string) => void }) {
  const units = useUnits();
  const { list, first } = advice.doubts;
  const homes = (list[0]?.seconds ?? 0) > 0;
  return (
    <>
      <p className="text-small text-quiet">
        {homes
          ? `Were they a tenth to a half larger than assumed, these ${first === 1 ? "" : `${first} `}would cost most: four fifths of what depends on all ${list.length}.`
          : `Nothing that is assumed would lose its home by being up to half as large again; these take most room.`}
      </p>
      <ol className="m-0 list-none p-0">
        {list.slice(0, Math.max(first, 12)).map((d, i) => (
          <li key={d.item} className={i === first ? "mt-1 border-t border-line pt-1" : ""}>
            <button
              className="flex w-full items-baseline justify-between gap-2 py-1 text-left hover:text-blue"
              onClick={() => onGo(d.item)}
            >
              <span className="min-w-0">
                <b>{name(d.item)}</b> <span className="text-small text-quiet">{of(d.fields)}</span>
              </span>
              <span className="shrink-0 text-small">{d.seconds > 0 ? `${seconds(d.seconds)} a week` : patch(d.area, units)}</span>
            </button>
          </li>
        ))}
      </ol>
    </>
  );
}

function Twice({
  advice,
  items,
  units,
  revision,
  onGo,
}: {
  advice: Advice;
  items: Item[];
  units: Units;
  revision: number;
  onGo: (id: string) => void;
}) {
  const resolve = useResolve();
  const done = useDone();
  const act = (ids: string[], choice: "all" | "spare" | "merge" | "twice") =>
    resolve.mutate({ base: revision, ids, choice }, { onSuccess: (r) => done(`${r.what}.`, r) });
  return (
    <ul className="m-0 list-none p-0">
      {advice.alike.map((a) => (
        <li key={a.items.join()} className="border-t border-line py-2">
          <p className="font-semibold">{a.says}</p>
          {a.items.map((id) => {
            const it = items.find((i) => i.id === id);
            return (
              it && (
                <button
                  key={id}
                  className="flex w-full justify-between gap-2 py-0.5 text-left text-small hover:text-blue"
                  onClick={() => onGo(id)}
                >
                  <span className="min-w-0 truncate">
                    {it.count > 1 && `${it.count} × `}
                    {it.name}, {size([it.w, it.h, it.d], units)}
                  </span>
                  <span className="shrink-0 font-semibold">{it.place || "no home"}</span>
                </button>
              )
            );
          })}
          <div className="mt-1 flex flex-wrap gap-x-4 gap-y-0.5 text-small font-semibold text-blue">
            <button className="hover:underline" onClick={() => act(a.items, "all")}>
              Keep both
            </button>
            <button className="hover:underline" onClick={() => act(a.items, "spare")}>
              One is a spare
            </button>
            <button className="hover:underline" onClick={() => act(a.items, "merge")}>
              Merge into one entry
            </button>
            <button className="hover:underline" onClick={() => act(a.items, "twice")}>
              Listed twice by mistake
            </button>
          </div>
        </li>
      ))}
    </ul>
  );
}

function Families({
  advice,
  name,
  revision,
  onGo,
}: {
  advice: Advice;
  name: (id: string) => string;
  revision: number;
  onGo: (id: string) => void;
}) {
  const set = useSet();
  const done = useDone();
  return (
    <>
      <p className="text-small text-quiet">A family wants one home. Choose things in the list and set their family to make one yourself.</p>
      <ul className="m-0 list-none p-0">
        {advice.families.map((f) => (
          <li key={f.family + f.items.join()} className="border-t border-line py-2">
            <p>
              <b>{f.family}</b> <span className="text-small text-quiet">{f.says}</span>
            </p>
            <p className="text-small">
              {f.items.slice(0, 8).map((id, i) => (
                <span key={id}>
                  {i > 0 && ", "}
                  <button className="hover:text-blue hover:underline" onClick={() => onGo(id)}>
                    {name(id)}
                  </button>
                </span>
              ))}
              {f.items.length > 8 && ` and ${f.items.length - 8} more`}
            </p>
            <button
              className="mt-1 text-small font-semibold text-blue hover:underline"
              onClick={() =>
                set.mutate(
                  { base: revision, ids: f.items, field: "family", text: f.family },
                  { onSuccess: (r) => done(`${f.items.length} in the family ${f.family}.`, r) },
                )
              }
            >
              {f.has > 0 ? `Take ${f.items.length === 1 ? "it" : "them"} in` : "Make them a family"}
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

function Dust({
  advice,
  name,
  onGo,
  onDustSaid,
}: {
  advice: Advice;
  name: (id: string) => string;
  onGo: (id: string) => void;
  onDustSaid: () => void;
}) {
  const units = useUnits();
  const d = advice.seldom;
  return (
    <>
      <p>
        {d.pieces} {d.pieces === 1 ? "piece is" : "pieces are"} used less than once a year: {percent(d.share)} of all you own.
        {d.wall > 0 && ` They take ${squares(d.wall, units, 2)} of wall, ${percent(d.wall_share)} of what hangs.`} In all they fill{" "}
        {litres(d.litres, units)}.
      </p>
      {d.kept > 0 && <p className="text-small text-quiet">{d.kept} more are used as seldom and kept in any case; they are not counted.</p>}
      <p className="text-small">
        {d.items.map((id, i) => (
          <span key={id}>
            {i > 0 && ", "}
            <button className="hover:text-blue hover:underline" onClick={() => onGo(id)}>
              {name(id)}
            </button>
          </span>
        ))}
      </p>
      <p className="text-small text-quiet">What you own is up to you; this is said only once.</p>
      <div>
        <button className="font-semibold text-blue hover:underline" onClick={onDustSaid}>
          Seen
        </button>
      </div>
    </>
  );
}
