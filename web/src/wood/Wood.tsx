import { useState } from "react";
import type { Round, Wooden, WoodPiece } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Empty } from "../ui/Empty";
import { fixed, squares, weight, type Units } from "../units";
import { Cutting } from "./Cutting";
import { Delivery } from "./Delivery";
import { FindPiece } from "./FindPiece";
import { GlueUp } from "./GlueUp";
import { Letting } from "./Letting";
import { PieceForm } from "./PieceForm";
import { Ends } from "./Ends";
import { sizeOf } from "./words";
import { useAddWood, useWood } from "./useWood";

type Work = "find" | "cut" | "delivery" | "go" | "glue";

const works: { value: Work; name: string }[] = [
  { value: "find", name: "Find a piece" },
  { value: "cut", name: "Cut plan" },
  { value: "delivery", name: "Delivery" },
  { value: "go", name: "Keep or go" },
  { value: "glue", name: "Glue-up" },
];

/** Wood is the boards, sheets and offcuts there are, and what is done with them. */
export default function Wood({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const wood = useWood(revision);
  const [work, setWork] = useKept<Work>("wood work", "find");
  if (!wood) return <p className="p-4 text-quiet">Looking at the wood …</p>;
  return (
    <div
      className="round-scroll h-full overflow-y-auto px-4 py-3 text-body"
      tabIndex={0}
      role="region"
      aria-label="Wood"
      data-testid="wood"
    >
      <div className={phone ? "" : "grid grid-cols-[minmax(0,1fr)_minmax(0,34rem)] gap-8"}>
        <div>
          <TakeIn revision={revision} />
          <Stocked wood={wood} round={round} revision={revision} />
        </div>
        <div>
          <Choices
            as="words"
            label="What to do with wood"
            value={work}
            choices={works}
            onPick={setWork}
            className="mt-1 flex flex-wrap gap-x-3"
          />
          {work === "find" && <FindPiece wood={wood} units={round.units} />}
          {work === "cut" && <Cutting wood={wood} units={round.units} revision={revision} />}
          {work === "delivery" && <Delivery wood={wood} units={round.units} revision={revision} />}
          {work === "go" && <Letting wood={wood} units={round.units} revision={revision} />}
          {work === "glue" && <GlueUp wood={wood} units={round.units} />}
        </div>
      </div>
    </div>
  );
}

/** TakeIn takes wood into stock by a line. */
function TakeIn({ revision }: { revision: number }) {
  const [text, setText] = useState("");
  const add = useAddWood();
  return (
    <form
      className="flex flex-wrap items-start gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim() !== "") add.mutate({ base: revision, text }, { onSuccess: () => setText("") });
      }}
    >
      <label className="min-w-60 flex-1">
        <span className="block text-small text-quiet">
          wood that came, a line each: how many, which wood, length × width × thickness, rack
        </span>
        <textarea
          value={text}
          rows={Math.min(6, 1 + text.split("\n").length)}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) e.currentTarget.form?.requestSubmit();
          }}
          placeholder={"8 oak 2600x180x30\n1/2 sheet birch ply 12mm"}
          className="w-full border border-line bg-sheet px-2 py-1.5 placeholder:text-quiet"
        />
      </label>
      <Button kind="main" type="submit" disabled={add.isPending || text.trim() === ""} className="mt-5">
        Take it in
      </Button>
    </form>
  );
}

/** Stocked is the wood by its kind, each piece drawn to scale: its length, and the end of it. */
function Stocked({ wood, round, revision }: { wood: Wooden; round: Round; revision: number }) {
  const [open, setOpen] = useState<string>();
  if (wood.pieces.length === 0)
    return (
      <div className="mt-4">
        <Empty title="No wood is on record yet">
          Type what there is above, or say of things on the list that they are wood. Then a part finds its piece, a cut list its cuts, and
          the pile what may go.
        </Empty>
        <Unsaid wood={wood} round={round} revision={revision} />
      </div>
    );
  const longest = Math.max(...wood.pieces.map((p) => p.l));
  return (
    <>
      <Part title={`${fixed(wood.m3, 3)} m³ of wood, ${weight(wood.kg, round.units)}`}>
        {wood.cap > 0 && (
          <p className={`m-0 ${wood.m3 > wood.cap ? "text-red" : "text-quiet"}`}>
            {fixed((100 * wood.m3) / wood.cap, 0)} % of the {fixed(wood.cap, 2)} m³ you want at most
            {wood.over.length > 0 && `; over it: ${wood.over.slice(0, 4).join(", ")}${wood.over.length > 4 ? " …" : ""}`}
          </p>
        )}
        {wood.says.map((s) => (
          <p key={s} className="m-0 text-red">
            {s}.
          </p>
        ))}
        {wood.elsewhere.map((e) => (
          <p key={e.area} className="m-0">
            {e.pieces === 1 ? "One piece" : `${e.pieces} pieces`} in {e.name}, {fixed(e.m3, 3)} m³
            {e.seconds > 0 && `, ${fixed(e.seconds, 0)} s from here`}.
            {e.says.map((x) => (
              <span key={x} className="block text-small text-red first-letter:uppercase">
                {x}.
              </span>
            ))}
          </p>
        ))}
        {wood.apart.map((a) => (
          <p key={a.of + a.form} className="m-0 text-small text-quiet">
            {a.called} ({a.form}) lies in {a.places.join(", ")}; most of it in {a.to}.
          </p>
        ))}
      </Part>
      {wood.totals.map((t) => (
        <Part key={t.of} title={t.called.charAt(0).toUpperCase() + t.called.slice(1)}>
          <p className="m-0 text-small text-quiet">
            {t.pieces === 1 ? "1 piece" : `${t.pieces} pieces`}, {fixed(t.m3, 3)} m³
            {t.feet > 0 && round.units === "imperial" && `, ${fixed(t.feet, 1)} board feet`}
            {t.m2 > 0 && `, ${squares(t.m2, round.units)} of sheet`}, {weight(t.kg, round.units)}
            {t.money > 0 && `, paid ${fixed(t.money, 2)}`}
          </p>
          <ul className="m-0 list-none p-0">
            {wood.pieces
              .filter((p) => p.of === t.of)
              .sort((a, b) => b.l - a.l)
              .map((p) => (
                <li key={p.item} className="border-b border-line/60 py-0.5">
                  <button
                    className="flex w-full items-center gap-3 text-left hover:text-blue thumb:min-h-11"
                    aria-expanded={open === p.item}
                    onClick={() => setOpen(open === p.item ? undefined : p.item)}
                  >
                    <Ends piece={p} longest={longest} />
                    <span className="min-w-0 flex-1 truncate">
                      {p.count > 1 && `${p.count} × `}
                      {sizeOf(p, round.units)}
                      {p.form !== "board" && <span className="text-quiet"> {p.form}</span>}
                      {p.about && <span className="text-quiet"> about</span>}
                      {p.promised && <span className="text-small text-blue"> for {p.promised}</span>}
                      {p.goes_to && <span className="text-small text-red"> goes: {p.goes_to}</span>}
                    </span>
                    <span className="narrow shrink-0 font-bold text-blue">
                      {p.place || "—"}
                      {p.level >= 0 && p.place && <span className="font-normal text-quiet"> level {p.level + 1}</span>}
                    </span>
                  </button>
                  {open === p.item && <Said piece={p} wood={wood} units={round.units} revision={revision} />}
                </li>
              ))}
          </ul>
        </Part>
      ))}
      <Racks wood={wood} units={round.units} />
      <Unsaid wood={wood} round={round} revision={revision} />
    </>
  );
}

function Said({ piece: p, wood, units, revision }: { piece: WoodPiece; wood: Wooden; units: Units; revision: number }) {
  return (
    <div className="py-1 pl-2 text-small">
      <p className="m-0 text-quiet">
        {weight(p.kg, units)} each{p.weighed ? "" : ", by its density"}
        {p.feet > 0 && units === "imperial" && `, ${fixed(p.feet, 1)} board feet`}
        {p.came && `, came ${p.came}`}
        {p.lift.length > 0 && `. Lift off first: ${p.lift.join(", ")}`}.
      </p>
      {p.cautions.map((c) => (
        <p key={c} className="m-0 text-red first-letter:uppercase">
          {c}.
        </p>
      ))}
      <PieceForm piece={p} wood={wood} revision={revision} />
    </div>
  );
}

/** Racks are the places wood lies in, with what they cost in room. */
function Racks({ wood, units }: { wood: Wooden; units: Units }) {
  if (wood.racks.length === 0 && wood.bins.length === 0) return null;
  return (
    <Part title="What it takes of the room">
      <table className="w-full border-collapse text-small">
        <thead>
          <tr className="text-left text-quiet">
            <th className="py-0.5 font-normal">rack</th>
            <th className="text-right font-normal">m³</th>
            <th className="text-right font-normal">wall</th>
            <th className="text-right font-normal">floor</th>
            <th className="text-right font-normal">way out</th>
            <th className="text-right font-normal">for a m³</th>
          </tr>
        </thead>
        <tbody>
          {wood.racks.map((r) => (
            <tr key={r.place} className="border-t border-line/60">
              <td className="py-0.5">
                <b className="text-blue">{r.place}</b> {r.name}
                {r.guests.length > 0 && <span className="block text-quiet">leaves when wood comes: {r.guests.join(", ")}</span>}
              </td>
              <td className="text-right tabular-nums">{fixed(r.m3, 3)}</td>
              <td className="text-right tabular-nums">{r.wall > 0 ? squares(r.wall, units) : "—"}</td>
              <td className="text-right tabular-nums">{r.floor > 0 ? squares(r.floor, units) : "—"}</td>
              <td className="text-right tabular-nums">{r.way > 0 ? squares(r.way, units) : "—"}</td>
              <td className="text-right tabular-nums">{r.per > 0 ? squares(r.per, units, 0) : "—"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Schools wood={wood} units={units} />
      {wood.bins.map((b) => (
        <p key={b.station} className="m-0 mt-1 text-small">
          <b>{b.name}</b>: {b.says}. What falls in a week: {fixed(b.keep, 0)} litres to keep, {fixed(b.waste, 0)} litres of waste.
        </p>
      ))}
    </Part>
  );
}

const schools = { rack: "one rack", "by-length": "bins by length", "by-kind": "bins by length and kind" } as const;

/** Schools are the ways to keep short wood, with what each takes of the room and of the time. */
function Schools({ wood, units }: { wood: Wooden; units: Units }) {
  if (wood.schools.length === 0) return null;
  return (
    <table className="mt-3 w-full border-collapse text-small" data-testid="schools">
      <caption className="pb-0.5 text-left text-quiet">Short wood kept otherwise, an estimate: what each way would take</caption>
      <thead>
        <tr className="text-left text-quiet">
          <th className="py-0.5 font-normal">way</th>
          <th className="text-right font-normal">bins</th>
          <th className="text-right font-normal">wall</th>
          <th className="text-right font-normal">floor</th>
          <th className="text-right font-normal">to get one</th>
        </tr>
      </thead>
      <tbody>
        {wood.schools.map((k) => (
          <tr key={k.way} className="border-t border-line/60">
            <td className="py-0.5">{schools[k.way]}</td>
            <td className="text-right tabular-nums">{k.bins > 0 ? k.bins : "—"}</td>
            <td className="text-right tabular-nums">{k.wall > 0 ? squares(k.wall, units) : "—"}</td>
            <td className="text-right tabular-nums">{squares(k.floor, units)}</td>
            <td className="text-right tabular-nums">{fixed(k.seconds, 0)} s</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Unsaid are things of the list that look like wood and of which nobody said so. */
function Unsaid({ wood, round, revision }: { wood: Wooden; round: Round; revision: number }) {
  const list = round.items.filter((i) => ["board", "sheet", "offcut"].includes(i.glyph) && !wood.pieces.some((p) => p.item === i.id));
  const [open, setOpen] = useState<string>();
  if (list.length === 0) return null;
  return (
    <Part title="Looks like wood">
      <p className="m-0 text-small text-quiet">These are on the list. Say which wood they are, and they count.</p>
      <ul className="m-0 list-none p-0">
        {list.map((i) => (
          <li key={i.id} className="border-b border-line/60 py-0.5">
            <button className="w-full text-left hover:text-blue thumb:min-h-11" onClick={() => setOpen(open === i.id ? undefined : i.id)}>
              {i.count > 1 && `${i.count} × `}
              {i.name} <span className="text-blue">{i.place}</span>
            </button>
            {open === i.id && (
              <PieceForm
                id={i.id}
                wood={wood}
                revision={revision}
                form={i.glyph === "board" ? "board" : i.glyph === "sheet" ? "sheet" : "offcut"}
              />
            )}
          </li>
        ))}
      </ul>
    </Part>
  );
}
