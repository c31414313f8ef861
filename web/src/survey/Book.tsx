import { X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import type { Fixture, WallNotes } from "../api/client";
import { Choice, Entry } from "./Entry";
import { useNotes } from "./useSurvey";
import { size } from "../units";
import { useUnits } from "../app/useUnits";

/** The key that adds each kind of feature, and its name. */
export const adds: Record<string, [string, string]> = {
  door: ["d", "door"],
  "double-door": ["t", "two-leaf door"],
  "sectional-door": ["r", "sectional door"],
  "up-and-over-door": ["u", "up-and-over door"],
  opening: ["g", "gap"],
  window: ["w", "window"],
  panel: ["p", "panel"],
  outlet: ["o", "outlet"],
  switch: ["s", "switch"],
  tap: ["a", "water tap"],
  "data-socket": ["c", "network socket"],
  "wall-fan": ["f", "exhaust fan"],
  heater: ["h", "heater"],
  pipe: ["i", "pipe"],
  beam: ["b", "beam"],
  niche: ["n", "niche"],
  keepsake: ["k", "keepsake"],
  pit: ["t", "pit"],
};

/** WallPage is the page of the notes on one wall. */
export function WallPage({ wall, onNext, onSplit }: { wall: WallNotes; onNext: () => void; onSplit: (to: string) => void }) {
  const units = useUnits();
  const { enter, data } = useNotes();
  const [seed, setSeed] = useState<{ path: string; text: string }>();
  const box = useRef<HTMLDivElement>(null);
  const long = data.report.walls.find((w) => w.wall === wall.id);
  const follows = wall.length.text === "" && data.report.walls.filter((w) => w.measured).length >= data.report.walls.length - 2;

  // A feature that was just added: its first number is next, as soon as it is drawn.
  const came = useRef("");
  useEffect(() => {
    if (!seed || came.current === seed.path) return;
    const first = box.current?.querySelector<HTMLInputElement>(`input[data-path="${seed.path}/x"]`);
    if (!first) return;
    came.current = seed.path;
    first.focus();
  }, [seed, wall]);

  return (
    <div ref={box} className="flex flex-col gap-2">
      <div className="grid grid-cols-2 gap-x-5 gap-y-2">
        <Entry field={wall.length} follows={follows} />
        <AngleEntry wall={wall} />
        {wall.points.map((f) => (
          <Entry key={f.path} field={f} />
        ))}
        <Choice field={wall.top} />
        <Choice field={wall.surface} />
        <Choice field={wall.claimed} names={{ yes: "claimed", no: "left alone" }} />
        {wall.studs.map((f) =>
          f.choices.length > 0 ? <Choice key={f.path} field={f} /> : <Entry key={f.path} field={f} wide={f.path.endsWith("list")} />,
        )}
      </div>
      {long && wall.length.text !== "" && Math.abs(long.adjusted - long.value) >= 1 && (
        <p className="text-fine text-quiet">fits the rest at {size([long.adjusted], units)}</p>
      )}
      <ul className="m-0 flex list-none flex-col gap-1.5 p-0">
        {wall.features.map((f) => (
          <FixtureLine key={f.id} fixture={f} seed={seed?.path === f.path ? seed.text : undefined} />
        ))}
      </ul>
      <AddLine
        kinds={data.notes.kinds.features}
        path={`walls/${wall.id}/features/+`}
        onAdded={(path, text) => setSeed({ path, text })}
        onNext={onNext}
      />
      <div className="mt-1 flex gap-4 border-t border-line pt-1.5 text-small">
        <button
          className="text-blue hover:underline"
          onClick={() => void enter(`walls/${wall.id}/split`, "yes").then((t) => t.added && onSplit(t.added.replace("walls/", "")))}
        >
          Add a wall after this one
        </button>
        <button
          className="text-blue hover:underline"
          onClick={() => void enter(`walls/${wall.id}/remove`, "yes").then((t) => !t.refused && onSplit(""))}
        >
          Remove this wall
        </button>
      </div>
      <Refusal path={`walls/${wall.id}/split`} />
      <Refusal path={`walls/${wall.id}/remove`} />
    </div>
  );
}

/** Refusal says why something that has no field of its own was not done. */
export function Refusal({ path }: { path: string }) {
  const { drafts, forget } = useNotes();
  const draft = drafts[path];
  if (!draft) return null;
  return (
    <p role="alert" className="flex items-start gap-2 text-fine text-red">
      {draft.why}
      <button aria-label="Understood" onClick={() => forget(path)}>
        <X size={14} />
      </button>
    </p>
  );
}

function AngleEntry({ wall }: { wall: WallNotes }) {
  const f = wall.angle;
  return <Entry field={{ ...f, length: false }} label={`${f.label}, turns`} />;
}

/** FixtureLine is one feature of a wall, under the ceiling or on the floor. */
export function FixtureLine({ fixture, seed }: { fixture: Fixture; seed?: string }) {
  const { enter } = useNotes();
  const numbers = fixture.fields.filter((f) => f.length);
  const words = fixture.fields.filter((f) => !f.length);
  return (
    <li className="border-l-2 border-wood-line pl-2" data-fixture={fixture.id}>
      <div className="flex items-baseline justify-between">
        <span className="text-body font-bold">{adds[fixture.kind]?.[1] ?? fixture.kind.replaceAll("-", " ")}</span>
        <button
          aria-label={`Take the ${fixture.kind} away`}
          className="p-0.5 text-quiet hover:text-red"
          onClick={() => void enter(`${fixture.path}/remove`, "yes")}
        >
          <X size={15} />
        </button>
      </div>
      <div className="grid grid-cols-4 items-end gap-x-3">
        {numbers.map((f, i) => (
          <Entry key={f.path} field={f} above seed={i === 0 ? seed : undefined} />
        ))}
      </div>
      <div className="mt-0.5 grid grid-cols-4 items-end gap-x-3">
        {words.map((f) => (f.choices.length > 0 ? <Choice key={f.path} field={f} above /> : <Entry key={f.path} field={f} above wide />))}
      </div>
    </li>
  );
}

interface AddLineProps {
  kinds: string[];
  path: string;
  onAdded: (path: string, typed: string) => void;
  onNext?: () => void;
}

/** AddLine adds a feature by one letter. Digits that follow at once are kept for its first number. */
export function AddLine({ kinds, path, onAdded, onNext }: AddLineProps) {
  const { enter } = useNotes();
  const [text, setText] = useState("");
  const busy = useRef(false);
  const latest = useRef("");
  const key = (k: string) => adds[k]?.[0] ?? k[0] ?? "";
  const name = (k: string) => adds[k]?.[1] ?? k;

  const add = async (kind: string) => {
    busy.current = true;
    const taken = await enter(path, kind);
    busy.current = false;
    const typed = latest.current;
    latest.current = "";
    setText("");
    if (taken.added) onAdded(taken.added, typed);
  };
  const onChange = (value: string) => {
    if (busy.current) {
      latest.current = value;
      setText(value);
      return;
    }
    const kind = kinds.find((k) => key(k) === value.toLowerCase() || name(k) === value.toLowerCase());
    if (kind) {
      setText("");
      latest.current = "";
      void add(kind);
    } else setText(value);
  };
  return (
    <div>
      <input
        data-add="yes"
        value={text}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && text === "" && !busy.current && onNext) {
            e.preventDefault();
            onNext();
          }
          if (e.key === "Escape") setText("");
        }}
        placeholder={onNext ? "a letter adds one of these; Enter goes to the next wall" : "a letter adds one of these"}
        aria-label="Add by its letter"
        autoComplete="off"
        className="w-full border border-line bg-paper px-2 py-1 text-body placeholder:text-quiet"
      />
      {text !== "" && !busy.current && <p className="text-fine text-red">“{text}” adds nothing; use one of the letters below.</p>}
      <div className="mt-1 flex flex-wrap gap-x-2.5 gap-y-0.5">
        {kinds.map((k) => (
          <button key={k} tabIndex={-1} className="text-small text-quiet hover:text-blue" onClick={() => void add(k)}>
            <b className="text-ink">{key(k)}</b> {name(k)}
          </button>
        ))}
      </div>
      <Refusal path={path} />
    </div>
  );
}
