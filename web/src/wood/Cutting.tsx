import { useState } from "react";
import { at } from "../api/base";
import type { CutList, CutPiece, Cuts, Wooden } from "../api/client";
import { useKept } from "../app/useKept";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { TypedIn } from "../ui/TypedIn";
import { fixed, length, percent, type Units, weight } from "../units";
import { lines, useCutLists, usePlanCuts, useTakeCuts } from "./useWood";

type Goal = "least-waste" | "fewest-cuts" | "fewest-new" | "small-first";

const goals: { value: Goal; name: string }[] = [
  { value: "least-waste", name: "least waste" },
  { value: "fewest-cuts", name: "fewest cuts" },
  { value: "fewest-new", name: "stock before new" },
  { value: "small-first", name: "small offcuts first" },
];

/** Cutting works out how the parts of a list are cut, from stock and from what may be bought, and books it once it was done. */
export function Cutting({ wood, units, revision }: { wood: Wooden; units: Units; revision: number }) {
  const [list, setList] = useKept<CutList>("cut list", { name: "", parts: [], buy: [] });
  const [parts, setParts] = useState((list.parts ?? []).join("\n"));
  const [buy, setBuy] = useState((list.buy ?? []).join("\n"));
  const [goal, setGoal] = useKept<Goal>("cut goal", "least-waste");
  const [saw, setSaw] = useKept("cut saw", { kerf: 3.2, trim: 0, plane: 0, extra: 0 });
  const keep = useCutLists();
  const plan = usePlanCuts();
  const take = useTakeCuts();
  const [chosen, setChosen] = useState(0);
  const cuts = plan.data?.[chosen];
  const choose = (name: string) => {
    const known = wood.lists.find((l) => l.name === name) ?? { name: "", parts: [], buy: [] };
    setList(known);
    setParts((known.parts ?? []).join("\n"));
    setBuy((known.buy ?? []).join("\n"));
    plan.reset();
  };
  const now: CutList = { name: list.name.trim(), parts: lines(parts), buy: lines(buy) };
  const number = (key: keyof typeof saw, label: string) => (
    <Labelled label={label} after="mm" width="w-40">
      <TypedIn
        key={saw[key]}
        value={String(saw[key])}
        onDone={(text) => {
          const v = Number(text.replace(",", "."));
          if (v >= 0 && v <= 100) setSaw({ ...saw, [key]: v });
        }}
        onTyped={() => undefined}
        className="w-12 border-b border-line text-right"
      />
    </Labelled>
  );
  const box = "w-full border border-line bg-sheet px-2 py-1.5 placeholder:text-quiet";
  return (
    <Part title="How the parts are cut">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Pick
          label="List"
          value={wood.lists.some((l) => l.name === list.name) ? list.name : ""}
          choices={[{ value: "", name: "a new list" }, ...wood.lists.map((l) => ({ value: l.name, name: l.name }))]}
          onPick={choose}
        />
        <Labelled label="for" width="w-56">
          <input
            value={list.name}
            placeholder="what is built"
            onChange={(e) => setList({ ...list, name: e.target.value })}
            className="w-full border-b border-line bg-transparent placeholder:text-quiet"
          />
        </Labelled>
        <Button
          disabled={now.name === "" || keep.isPending}
          onClick={() => keep.mutate({ base: revision, lists: [...wood.lists.filter((l) => l.name !== now.name), now] })}
        >
          Keep the list
        </Button>
      </div>
      <label className="mt-2 block">
        <span className="block text-small text-quiet">
          parts, a line each; the grain runs along the first size unless it says “any way”
        </span>
        <textarea
          value={parts}
          rows={Math.max(4, Math.min(10, parts.split("\n").length + 1))}
          onChange={(e) => setParts(e.target.value)}
          placeholder={"2 sides 720x300x18 birch ply\n3 shelves 564x280x18 birch ply any way"}
          className={box}
        />
      </label>
      <label className="mt-1 block">
        <span className="block text-small text-quiet">what may be bought, with the price</span>
        <textarea
          value={buy}
          rows={Math.max(2, Math.min(4, buy.split("\n").length))}
          onChange={(e) => setBuy(e.target.value)}
          placeholder="birch ply 2440x1220x18 at 60"
          className={box}
        />
      </label>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        {number("kerf", "saw takes")}
        {number("trim", "off each edge")}
        {number("plane", "planed off, most")}
        {number("extra", "parts larger by")}
        <Pick label="Look for" value={goal} choices={goals} onPick={(g) => setGoal(g as Goal)} />
      </div>
      <p className="mt-2 mb-0">
        <Button
          kind="main"
          disabled={plan.isPending || now.parts?.length === 0}
          onClick={() =>
            plan.mutate(
              { name: now.name, parts: now.parts ?? [], buy: now.buy, goal, compare: true, seconds: 2, ...saw },
              { onSuccess: () => setChosen(0) },
            )
          }
        >
          {plan.isPending ? "Looking for cuts …" : "Work out the cuts"}
        </Button>
      </p>
      {plan.error && (
        <p className="m-0 mt-1 text-red" role="alert">
          {plan.error.message}
        </p>
      )}
      {plan.data && cuts && (
        <>
          <Ways plans={plan.data} chosen={chosen} onChoose={setChosen} units={units} />
          <Result
            cuts={cuts}
            units={units}
            onTake={() => take.mutate({ base: revision, id: cuts.id }, { onSuccess: () => plan.reset() })}
            taking={take.isPending}
          />
        </>
      )}
    </Part>
  );
}

/** Ways to cut the same parts, side by side: what each goal comes to. One that is pressed is shown. */
function Ways({ plans, chosen, onChoose, units }: { plans: Cuts[]; chosen: number; onChoose: (i: number) => void; units: Units }) {
  if (plans.length < 2) return null;
  const head = "border-b border-ink py-1 pl-3 text-right font-normal text-quiet";
  const cell = "border-b border-line py-1 pl-3 text-right tabular-nums";
  return (
    <table className="mt-3 w-full border-collapse" data-testid="ways">
      <caption className="sr-only">Ways to cut the same parts</caption>
      <thead>
        <tr>
          <th className={head + " pl-0! text-left!"}>look for</th>
          <th className={head}>stock</th>
          <th className={head}>in the parts</th>
          <th className={head}>new</th>
          {plans.some((p) => p.money > 0) && <th className={head}>to pay</th>}
          <th className={head}>cuts</th>
          <th className={head}>left to keep</th>
        </tr>
      </thead>
      <tbody>
        {plans.map((p, i) => (
          <tr key={p.id} className={i === chosen ? "bg-sheet" : ""}>
            <td className="border-b border-line py-1">
              <button
                type="button"
                aria-pressed={i === chosen}
                onClick={() => onChoose(i)}
                className="font-semibold text-blue hover:underline aria-pressed:text-ink"
              >
                {goals.find((g) => g.value === p.goal)?.name}
              </button>
            </td>
            <td className={cell}>{p.plan.pieces.length}</td>
            <td className={cell}>{percent(p.plan.area / Math.max(1e-9, p.plan.stocked))}</td>
            <td className={cell}>{p.new}</td>
            {plans.some((x) => x.money > 0) && <td className={cell}>{fixed(p.money, 2)}</td>}
            <td className={cell}>{p.plan.cut_count}</td>
            <td className={cell}>{left(p, units)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** left is the largest piece that a plan leaves. */
function left(cuts: Cuts, units: Units) {
  const most = cuts.plan.pieces.flatMap((p) => p.offcuts).sort((a, b) => b.l * b.w - a.l * a.w)[0];
  return most ? `${length(most.l, units)} × ${length(most.w, units)}` : "nothing";
}

/** Heavy says how stock that is too heavy for one becomes lighter, and where there is room for that. */
function Heavy({ cuts, units }: { cuts: Cuts; units: Units }) {
  return cuts.heavy.map((h) => (
    <p key={h.stock} className="m-0 text-red">
      {(cuts.called[h.stock] ?? h.stock).replace("bought: ", "").replace(/^./, (c) => c.toUpperCase())} weighs {weight(h.kg, units)}: two
      people, or cut it where it stands. After {h.cuts === 1 ? "the first cut" : `${h.cuts} cuts`} nothing in the hand is over{" "}
      {weight(Math.max(h.after, 0.5), units)}. It wants {length(h.long, units)} × {length(h.wide, units)} of free floor:{" "}
      {h.here
        ? "that is there now"
        : h.modes.length > 0
          ? `there is that in ${h.modes.join(", ")}`
          : "no arrangement of yours has that; cut it outside"}
      .
    </p>
  ));
}

/** Result is a plan of cuts: what it takes, how far from the best, and a drawing of each piece. */
function Result({ cuts, units, onTake, taking }: { cuts: Cuts; units: Units; onTake: () => void; taking: boolean }) {
  const p = cuts.plan;
  return (
    <div className="mt-3 border-t border-ink pt-2" data-testid="cuts">
      {p.unplaced.length > 0 && (
        <p className="m-0 text-red">
          No stock for {p.unplaced.length === 1 ? "one part" : `${p.unplaced.length} parts`}: {[...new Set(p.unplaced)].join(", ")}. Say
          what may be bought.
        </p>
      )}
      {p.pieces.length > 0 && (
        <>
          <p className="m-0">
            <b>
              {p.pieces.length === 1 ? "One piece of stock" : `${p.pieces.length} pieces of stock`}, {p.cut_count} cuts
            </b>
            , {percent(p.area / Math.max(1e-9, p.stocked))} of it in the parts
            {p.unplaced.length === 0 &&
              p.gap < 0.2 &&
              (p.gap < 0.0005 ? "; no plan takes less" : `; at most ${percent(p.gap, 1)} over the least`)}
            .
          </p>
          {cuts.buy.length > 0 && (
            <p className="m-0">
              To buy: {cuts.buy.join(", ")}
              {cuts.money > 0 && `, ${fixed(cuts.money, 2)}`}.
            </p>
          )}
          {cuts.fetch.length > 0 && (
            <p className="m-0" data-testid="fetch">
              Fetch:{" "}
              {cuts.fetch.map((f, i) => (
                <span key={f.place}>
                  {i > 0 && "; "}
                  {f.names.map((n, k) => ((f.counts[k] ?? 1) > 1 ? `${f.counts[k]} × ${n}` : n)).join(", ")} from{" "}
                  <b className="text-blue">{f.place || "where it lies"}</b>
                  {f.area && ` in ${f.area}`}
                  {f.lift.length > 0 && ` (lift off first: ${f.lift.join(", ")})`}
                </span>
              ))}
              .
            </p>
          )}
          <Heavy cuts={cuts} units={units} />
          {cuts.says.map((s) => (
            <p key={s} className="m-0 text-red first-letter:uppercase">
              {s}.
            </p>
          ))}
          <p className="mt-1 mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
            <Button kind="main" disabled={taking} onClick={onTake}>
              It is cut: book it
            </Button>
            {(["pdf", "svg", "dxf"] as const).map((form) => (
              <a
                key={form}
                className="font-semibold text-blue hover:underline"
                href={at(`/api/v1/wood/cuts/${cuts.id}/drawing.${form}`)}
                target="_blank"
                rel="noreferrer"
              >
                {form.toUpperCase()}
              </a>
            ))}
          </p>
          {p.pieces.map((x, i) => (
            <Drawn key={i} piece={x} called={cuts.called[x.stock] ?? x.stock} units={units} />
          ))}
        </>
      )}
    </div>
  );
}

function Drawn({ piece: x, called, units }: { piece: CutPiece; called: string; units: Units }) {
  const k = 520 / x.length;
  const h = x.width * k;
  return (
    <figure className="m-0 mb-3">
      <svg viewBox={`-1 -1 522 ${h + 2}`} className="w-full" role="img" aria-label={`${called}: ${x.parts.length} parts`}>
        <rect width={520} height={h} fill="var(--sheet)" stroke="var(--ink)" />
        {x.offcuts.map((o, i) => (
          <rect key={i} x={o.x * k} y={(x.width - o.y - o.w) * k} width={o.l * k} height={o.w * k} fill="var(--line)" fillOpacity={0.45} />
        ))}
        {x.parts.map((q, i) => {
          const [pw, ph] = [q.l * k, q.w * k];
          const big = ph > 22 && pw > 46;
          return (
            <g key={i}>
              <rect x={q.x * k} y={(x.width - q.y - q.w) * k} width={pw} height={ph} fill="var(--wood)" stroke="var(--wood-line)" />
              {ph > 9 && pw > 26 && (
                <text
                  x={(q.x + q.l / 2) * k}
                  y={(x.width - q.y - q.w / 2) * k + (big ? -1 : 3)}
                  textAnchor="middle"
                  fontSize={Math.min(10, ph * 0.6)}
                  fill="var(--ink)"
                >
                  {q.part.slice(0, Math.max(2, Math.floor(pw / 5.6)))}
                </text>
              )}
              {big && (
                <text x={(q.x + q.l / 2) * k} y={(x.width - q.y - q.w / 2) * k + 9} textAnchor="middle" fontSize={8} fill="var(--ink)">
                  {`${length(q.l, units)} × ${length(q.w, units)}`.slice(0, Math.floor(pw / 4.4))}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="text-small text-quiet">
        {called}
        {x.cuts.length > 0 &&
          `: ${x.cuts.length} cuts, the first ${x.cuts[0]?.along === "l" ? "along" : "across"} at ${length(x.cuts[0]?.at ?? 0, units)}`}
      </figcaption>
    </figure>
  );
}
