import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Round } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Empty } from "../ui/Empty";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { fixed, length, litres, metres, squares, weight, type Units } from "../units";
import { useCutLists, useWood } from "../wood/useWood";
import { Apart } from "./Apart";
import { Found } from "./Found";
import { Lining } from "./Lining";
import { sheets, useBuilds, useBuilt, useUnit, type Chosen, type ToBuild, type Unit } from "./useBuild";

type Look = "drawing" | "parts" | "steps" | "wall";

/** Build is how storage is made: what to make first, and of one piece its drawings, parts, steps and the screws in its wall. */
export default function Build({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const [query, setQuery] = useSearchParams();
  const builds = useBuilds(revision);
  const id = query.get("unit") ?? "";
  const shown = builds.data?.units.find((u) => u.id === id) ? id : "";
  const choose = (unit: string) => setQuery(unit ? { unit } : {}, { replace: !phone });
  if (!builds.data) return <p className="p-4 text-quiet">Looking at what there is to build …</p>;
  const list = (
    <List units={builds.data.units} target={builds.data.target} why={builds.data.why} chosen={shown} onChoose={choose} in={round.units} />
  );
  return (
    <div className="flex h-full" data-testid="build">
      {(!phone || shown === "") && (
        <div
          className={`round-scroll h-full overflow-y-auto px-4 py-3 text-body ${phone ? "w-full" : "w-96 shrink-0 border-r border-ink"}`}
          tabIndex={0}
          role="region"
          aria-label="What can be built"
        >
          {list}
          {phone && (
            <>
              <Lining round={round} revision={revision} />
              <Found round={round} revision={revision} />
            </>
          )}
        </div>
      )}
      {(!phone || shown !== "") && (
        <div
          className="round-scroll h-full min-w-0 flex-1 overflow-y-auto px-5 py-3 text-body"
          tabIndex={0}
          role="region"
          aria-label="How it is made"
        >
          {shown === "" ? (
            <>
              <Empty title="Choose what to build">
                Each piece of storage comes with its parts, drawings to scale, what to buy, and where its screws go.
              </Empty>
              <Lining round={round} revision={revision} />
              <Found round={round} revision={revision} />
            </>
          ) : (
            <Made key={shown} id={shown} units={round.units} revision={revision} onBack={phone ? () => choose("") : undefined} />
          )}
        </div>
      )}
    </div>
  );
}

function List({
  units: all,
  target,
  why,
  chosen,
  onChoose,
  in: units,
}: {
  units: ToBuild[];
  target: string;
  why: string;
  chosen: string;
  onChoose: (id: string) => void;
  in: Units;
}) {
  const wanted = all.filter((u) => u.wanted);
  const rows = (list: ToBuild[]) =>
    list.map((u) => (
      <li key={u.id}>
        <button
          type="button"
          aria-pressed={chosen === u.id}
          onClick={() => onChoose(u.id)}
          className={`block w-full border-b border-line px-1 py-1.5 text-left thumb:min-h-11 ${chosen === u.id ? "bg-sheet" : "hover:bg-sheet"}`}
        >
          <span className="flex items-baseline justify-between gap-3">
            <b className="truncate">{u.name}</b>
            <span className="shrink-0 tabular-nums">{u.why === "" && u.hours > 0 ? `${fixed(u.hours, 1)} h` : ""}</span>
          </span>
          <span className="flex items-baseline justify-between gap-3 text-small text-quiet">
            <span className="truncate">
              {u.title || "not made of parts"}
              {u.things > 0 && `, ${u.things === 1 ? "one thing" : `${u.things} things`}`}
            </span>
            {u.why === "" && (
              <span className="shrink-0 tabular-nums">
                {[
                  u.sheet > 0 ? squares(u.sheet, units) : "",
                  u.solid > 0 ? metres(u.solid, units) : "",
                  u.hours > 0 ? `${litres(u.space / u.hours, units)} an hour` : "",
                ]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            )}
          </span>
        </button>
      </li>
    ));
  return (
    <>
      {wanted.length > 0 && (
        <Part title={`To build for ${target}`}>
          <ul className="m-0 list-none p-0" data-testid="to-build">
            {rows(wanted)}
          </ul>
        </Part>
      )}
      {why !== "" && (
        <p className="m-0 mb-2 text-red" role="alert">
          {why.replace(/\.?$/, ".")}
        </p>
      )}
      {wanted.length === 0 && why === "" && (
        <p className="m-0 mb-2 text-quiet">
          No plan with new storage is being carried out: propose storage under Fit, or look how what is there could be made again.
        </p>
      )}
      <Part title="What is there">
        {all.every((u) => u.wanted) && <p className="m-0 text-quiet">No storage is on record yet.</p>}
        <ul className="m-0 list-none p-0">{rows(all.filter((u) => !u.wanted))}</ul>
      </Part>
    </>
  );
}

/** Made is a unit with the choices of how it is made. */
function Made({ id, units, revision, onBack }: { id: string; units: Units; revision: number; onBack?: () => void }) {
  const [chosen, setChosen] = useKept<Chosen>(`build ${id}`, {});
  const [look, setLook] = useKept<Look>("build look", "drawing");
  const unit = useUnit(id, chosen, revision);
  const [last, setLast] = useState<Unit>();
  if (unit.data && unit.data !== last) setLast(unit.data);
  const u = unit.data ?? last;
  const back = onBack && (
    <p className="m-0 mb-2">
      <Button onClick={onBack}>All that can be built</Button>
    </p>
  );
  if (!u)
    return (
      <>
        {back}
        <p className={unit.error ? "text-red" : "text-quiet"} role={unit.error ? "alert" : undefined}>
          {unit.error ? `${unit.error.message.replace(/\.?$/, ".")}` : "Working it out …"}
        </p>
      </>
    );
  const wall = u.wall;
  return (
    <>
      {back}
      <h2 className="m-0 text-head leading-tight font-bold">{u.name}</h2>
      <p className="m-0 text-quiet" data-testid="made">
        {u.title}, {length(u.w, units)} × {length(u.d, units)} × {length(u.h, units)}; {weight(u.kg, units)} of{" "}
        {[u.sheet > 0 && `${squares(u.sheet, units)} sheet`, u.solid > 0 && `${metres(u.solid, units)} solid wood`]
          .filter(Boolean)
          .join(", ") || "nothing"}
        ; {fixed(u.hours, 1)} h{u.money > 0 && `; ${fixed(u.money, 2)}`}
      </p>
      {unit.error && (
        <p className="m-0 mt-1 text-red" role="alert">
          {unit.error.message.replace(/\.?$/, ".")}
        </p>
      )}
      <Otherwise unit={u} chosen={chosen} onChoose={setChosen} units={units} />
      <Wishes unit={u} chosen={chosen} onChoose={setChosen} units={units} revision={revision} />
      <Choices
        as="words"
        label="What to look at"
        value={look}
        choices={[
          { value: "drawing", name: "Drawing" },
          { value: "parts", name: "Parts" },
          { value: "steps", name: "Steps" },
          ...(wall ? [{ value: "wall" as const, name: "On the wall" }] : []),
        ]}
        onPick={setLook}
        className="mt-3 mb-2 flex flex-wrap gap-x-3"
      />
      {look === "drawing" && <Drawing unit={u} chosen={chosen} />}
      {look === "parts" && <Parts unit={u} chosen={chosen} units={units} revision={revision} />}
      {(look === "steps" || (look === "wall" && !wall)) && <Steps unit={u} />}
      {look === "wall" && wall && <Wall wall={wall} units={units} />}
      <Done unit={u} units={units} revision={revision} />
      {!u.wanted && <Apart key={u.id} unit={u} chosen={chosen} units={units} revision={revision} />}
    </>
  );
}

const ways: Record<string, { label: string; words: { value: string; name: string }[] }> = {
  joint: {
    label: "Joints",
    words: [
      { value: "screws", name: "butt, screwed" },
      { value: "rebates", name: "rebates" },
      { value: "dadoes", name: "dadoes" },
    ],
  },
  back: {
    label: "Back",
    words: [
      { value: "none", name: "none" },
      { value: "on", name: "on the back" },
      { value: "rebated", name: "in a rebate" },
    ],
  },
  runner: {
    label: "Drawers on",
    words: [
      { value: "none", name: "wood" },
      { value: "side", name: "side-mounted runners" },
      { value: "undermount", name: "undermount runners" },
    ],
  },
  front: {
    label: "Fronts",
    words: [
      { value: "overlay", name: "before the case" },
      { value: "inset", name: "in the case" },
    ],
  },
  strip: {
    label: "Strips before shelves",
    words: [
      { value: "where-it-sags", name: "where it sags" },
      { value: "always", name: "always" },
      { value: "never", name: "never" },
    ],
  },
  bevel: {
    label: "Cleats at",
    words: [
      { value: "30", name: "30°" },
      { value: "45", name: "45°" },
    ],
  },
};

/** Wishes are the choices that matter to a unit. */
function Wishes({
  unit,
  chosen,
  onChoose,
  units,
  revision,
}: {
  unit: Unit;
  chosen: Chosen;
  onChoose: (c: Chosen) => void;
  units: Units;
  revision: number;
}) {
  const wood = useWood(revision);
  if (unit.asks.length === 0) return null;
  const now: Record<string, string | number | boolean | undefined> = { ...unit.choices };
  const set = (key: string, value: string) => onChoose({ ...chosen, [key]: key === "bevel" ? Number(value) : value });
  const thick = (key: "t" | "thin", label: string, usual: number[]) => {
    const is = Number(now[key]);
    const all = usual.includes(is) ? usual : [...usual, is].sort((a, b) => a - b);
    return (
      <span className="flex items-baseline gap-1.5">
        <span className="text-quiet">{label}</span>
        <Pick
          label={label}
          value={String(is)}
          choices={all.map((v) => ({ value: String(v), name: length(v, units) }))}
          onPick={(v) => onChoose({ ...chosen, [key]: Number(v) })}
        />
      </span>
    );
  };
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1.5" data-testid="choices">
      {unit.asks.includes("sheet") && wood && (
        <span className="flex items-baseline gap-1.5">
          <span className="text-quiet">Sheet</span>
          <Pick
            label="Sheet"
            value={String(now.sheet)}
            choices={wood.kinds.map((k) => ({ value: k.id, name: k.name }))}
            onPick={(v) => set("sheet", v)}
          />
        </span>
      )}
      {unit.asks.includes("t") && thick("t", "Thick", units === "metric" ? [12, 15, 18, 19, 21, 25] : [12.7, 15.9, 18, 19.05, 25.4])}
      {unit.asks.includes("thin") && thick("thin", "Backs", units === "metric" ? [4, 6, 9] : [3.2, 6.35, 9.5])}
      {Object.entries(ways)
        .filter(([key]) => unit.asks.includes(key))
        .map(([key, w]) => (
          <span key={key} className="flex items-baseline gap-1.5">
            <span className="text-quiet">{w.label}</span>
            <Pick label={w.label} value={String(now[key])} choices={w.words} onPick={(v) => set(key, v)} />
          </span>
        ))}
      <Tickbox on={chosen.scrap ?? false} onChange={(scrap) => onChoose({ ...chosen, scrap: scrap || undefined })}>
        from scrap first
      </Tickbox>
      {Object.keys(chosen).length > 0 && <Button onClick={() => onChoose({})}>As it suits the shop</Button>}
    </div>
  );
}

const otherwise = {
  chosen: "as chosen",
  plain: "Plain, with butt joints, no back and drawers on wood",
  scrap: "From scrap first",
} as const;

/** Otherwise are other ways to make a unit, with what they cost. */
function Otherwise({ unit, chosen, onChoose, units }: { unit: Unit; chosen: Chosen; onChoose: (c: Chosen) => void; units: Units }) {
  if (unit.ways.length < 2) return null;
  const first = unit.ways[0];
  return (
    <ul className="m-0 mt-1 list-none p-0 text-small" data-testid="otherwise">
      {unit.ways.slice(1).map((w) => (
        <li key={w.name}>
          <button
            type="button"
            className="font-semibold text-blue hover:underline"
            onClick={() =>
              onChoose(
                w.name === "scrap"
                  ? { ...chosen, scrap: true }
                  : { ...chosen, joint: "screws", back: "none", runner: "none", strip: "never" },
              )
            }
          >
            {otherwise[w.name]}
          </button>
          <span className="text-quiet">
            {": "}
            {fixed(w.hours, 1)} h, {w.sheet > 0 && `${squares(w.sheet, units)} of sheet, `}
            {w.solid > 0 && `${metres(w.solid, units)} of solid wood, `}
            {w.bought} fittings{w.money > 0 && `, ${fixed(w.money, 2)}`}
            {first && w.hours < first.hours && `; ${fixed(first.hours - w.hours, 1)} h less`}
            {w.short && <span className="text-red">; {w.short}</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}

function Drawing({ unit, chosen }: { unit: Unit; chosen: Chosen }) {
  if (unit.parts.length === 0) return <p className="text-quiet">There is nothing to saw: see the steps.</p>;
  return (
    <>
      <img
        src={sheets(unit.id, chosen, "drawing.svg", { page: 1 })}
        alt={`${unit.name} from the front, from the side, cut through and from above, with dimensions`}
        className="w-full border border-line bg-white"
        data-testid="drawing"
      />
      <img
        src={sheets(unit.id, chosen, "drawing.svg", { page: 2 })}
        alt={`${unit.name} with its parts apart`}
        className="mt-3 w-full border border-line bg-white"
      />
      <p className="mt-2 mb-0 flex flex-wrap gap-x-4">
        {(["pdf", "svg", "dxf"] as const).map((form) => (
          <a
            key={form}
            className="font-semibold text-blue hover:underline"
            href={sheets(unit.id, chosen, `drawing.${form}`)}
            target="_blank"
            rel="noreferrer"
          >
            All drawings, {form.toUpperCase()}
          </a>
        ))}
      </p>
    </>
  );
}

function Parts({ unit, chosen, units, revision }: { unit: Unit; chosen: Chosen; units: Units; revision: number }) {
  const keep = useCutLists();
  const wood = useWood(revision);
  const navigate = useNavigate();
  const [, setList] = useKept("cut list", { name: "", parts: [] as string[], buy: [] as string[] });
  const [, setWork] = useKept("wood work", "find");
  const cell = "border-b border-line py-1 pl-3 text-right tabular-nums";
  const head = "border-b border-ink py-1 pl-3 text-right font-normal text-quiet";
  const cut = () => {
    const list = { name: unit.name, parts: unit.lines, buy: [] };
    keep.mutate(
      { base: revision, lists: [...(wood?.lists ?? []).filter((l) => l.name !== unit.name), list] },
      {
        onSuccess: () => {
          setList(list);
          setWork("cut");
          void navigate("/wood");
        },
      },
    );
  };
  return (
    <>
      <table className="w-full border-collapse" data-testid="parts">
        <thead>
          <tr>
            <th className={head + " pl-0! text-left!"}>part</th>
            <th className={head}>how many</th>
            <th className={head}>long</th>
            <th className={head}>wide</th>
            <th className={head}>thick</th>
            <th className={head + " text-left!"}>of</th>
            <th className={head}>full size</th>
          </tr>
        </thead>
        <tbody>
          {unit.list.map((l, i) => (
            <tr key={i}>
              <td className="border-b border-line py-1">{l.name}</td>
              <td className={cell}>{l.count}</td>
              <td className={cell}>{length(l.l, units)}</td>
              <td className={cell}>{length(l.w, units)}</td>
              <td className={cell}>{length(l.t, units)}</td>
              <td className={cell + " text-left!"}>
                {wood?.kinds.find((k) => k.id === l.material)?.name ?? l.material}
                {l.bevel > 0 && `, edge at ${l.bevel}°`}
              </td>
              <td className={cell}>
                {(["pdf", "dxf"] as const).map((form) => (
                  <a
                    key={form}
                    className="ml-2 text-blue hover:underline"
                    aria-label={`${l.name} at full size, ${form.toUpperCase()}`}
                    href={sheets(unit.id, chosen, `template.${form}`, { part: i + 1 })}
                    target="_blank"
                    rel="noreferrer"
                  >
                    {form.toUpperCase()}
                  </a>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 mb-0">
        <Button kind="main" disabled={keep.isPending || unit.lines.length === 0 || !wood} onClick={cut}>
          Work out how they are cut
        </Button>
      </p>
      {unit.fittings.length > 0 && (
        <Part title="To buy">
          <ul className="m-0 list-none p-0">
            {unit.fittings.map((f) => (
              <li key={f.name + f.long} className="border-b border-line py-1">
                {f.count} × {f.name}
                {f.long > 0 && ` ${length(f.long, units)}`}
              </li>
            ))}
          </ul>
        </Part>
      )}
    </>
  );
}

function Steps({ unit }: { unit: Unit }) {
  return (
    <>
      <ol className="m-0 list-decimal pl-6">
        {unit.steps.map((s, i) => (
          <li key={i} className="py-0.5">
            {s.says}
          </li>
        ))}
      </ol>
      {unit.rules.length > 0 && (
        <Part title="What decided it">
          <ul className="m-0 list-none p-0">
            {unit.rules.map((r) => (
              <li key={r} className="py-0.5 first-letter:uppercase">
                {r}
              </li>
            ))}
          </ul>
        </Part>
      )}
      <Cautions list={unit.cautions} />
    </>
  );
}

function Cautions({ list }: { list: string[] }) {
  if (list.length === 0) return null;
  return (
    <Part title="Mind">
      <ul className="m-0 list-none p-0">
        {list.map((c) => (
          <li key={c} className="py-0.5 text-red first-letter:uppercase">
            {c}
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Wall({ wall, units }: { wall: NonNullable<Unit["wall"]>; units: Units }) {
  const rows = [...new Set(wall.screws.map((s) => s.z))];
  return (
    <div data-testid="on-wall">
      {wall.says.map((s) => (
        <p key={s} className="m-0 py-0.5">
          {s}
        </p>
      ))}
      <table className="mt-2 border-collapse">
        <thead>
          <tr>
            <th className="border-b border-ink py-1 pr-5 text-right font-normal text-quiet">up from the level floor</th>
            <th className="border-b border-ink py-1 text-left font-normal text-quiet">from corner {wall.from}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((z) => (
            <tr key={z}>
              <td className="border-b border-line py-1 pr-5 text-right tabular-nums">{length(z, units)}</td>
              <td className="border-b border-line py-1 tabular-nums">
                {wall.screws
                  .filter((s) => s.z === z)
                  .map((s) => length(s.x, units))
                  .join(" · ")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Cautions list={wall.cautions} />
    </div>
  );
}

/** Done says that it is built, with the screws that hold it. */
function Done({ unit, units, revision }: { unit: Unit; units: Units; revision: number }) {
  const built = useBuilt();
  const [fixed, setFixed] = useState({ screws: "", d: "", thread: "", rated: "" });
  const hangs = unit.wall !== undefined;
  if (!unit.wanted && !hangs) return null;
  const metric = units === "metric";
  const number = (text: string) => Number(text.replace(",", ".")) || undefined;
  const typed = (text: string, unit: number) => {
    const v = number(text);
    return v && v * (metric ? 1 : unit);
  };
  const field = (key: keyof typeof fixed, label: string, after: string) => (
    <Labelled label={label} after={after} width="w-52">
      <input
        value={fixed[key]}
        inputMode="decimal"
        onChange={(e) => setFixed({ ...fixed, [key]: e.target.value })}
        className="w-16 border-b border-line bg-transparent text-right"
      />
    </Labelled>
  );
  return (
    <Part title={unit.wanted ? "When it is built" : "How it is fixed"}>
      {hangs && (
        <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
          {field("screws", "screws into studs", "")}
          {field("d", "their thread", metric ? "mm across" : "in across")}
          {field("thread", "in the wood", metric ? "mm" : "in")}
          {field("rated", "rated for", metric ? "kg" : "lb")}
        </div>
      )}
      <p className="mt-2 mb-0">
        <Button
          kind="main"
          disabled={built.isPending || (!unit.wanted && !number(fixed.screws) && !number(fixed.rated))}
          onClick={() =>
            built.mutate({
              base: revision,
              id: unit.id,
              body: {
                screws: number(fixed.screws),
                d: typed(fixed.d, 25.4),
                thread: typed(fixed.thread, 25.4),
                rated: typed(fixed.rated, 0.45359237),
              },
            })
          }
        >
          {unit.wanted ? "It is built and in its place" : "Keep how it is fixed"}
        </Button>
      </p>
    </Part>
  );
}
