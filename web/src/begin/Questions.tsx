import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { api, changed, keys, Refused, unwrap } from "../api/client";
import { Several } from "../facts/Facts";
import { reason } from "../reason";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Tickbox } from "../ui/Tickbox";

/** Other is somebody else who comes. */
interface Other {
  name: string;
  stature: string;
  child: boolean;
}

/** inFeet is what people measure in where the browser says they live. */
const inFeet = /^en-(US|LR)|^my/i.test(navigator.language);

/** withComma is how decimals are written where the browser says they live. */
const withComma = new Intl.NumberFormat(navigator.language).format(1.5).includes(",");

/** Questions asks on one page what decides most of the answers. Each has a default, and says what it is for. */
export function Questions({ revision, onBegun }: { revision: number; onBegun: () => void }) {
  const client = useQueryClient();
  const facts = useQuery({ queryKey: keys.facts(revision), queryFn: async () => unwrap(await api.GET("/api/v1/facts")) }).data;
  const words = (path: string) => facts?.flatMap((g) => g.fields).find((f) => f.path === path)?.choices ?? [];
  const [name, setName] = useState("My workshop");
  const [units, setUnits] = useState(inFeet ? "imperial" : "metric");
  const [decimal, setDecimal] = useState(withComma ? "comma" : "point");
  const [often, setOften] = useState("2");
  const [stature, setStature] = useState("");
  const [hand, setHand] = useState("right");
  const [habits, setHabits] = useState<string[]>([]);
  const [others, setOthers] = useState<Other[]>([]);
  const [fixing, setFixing] = useState("anything");
  const [shared, setShared] = useState("");
  const [made, setMade] = useState("");
  const [why, setWhy] = useState<{ about: string; says: string }>();
  const [busy, setBusy] = useState(false);
  const usual = units === "metric" ? "1720 mm" : `5' 8"`;

  const begin = async () => {
    const entries: { path: string; text: string; about: string }[] = [];
    const say = (path: string, text: string, about: string) => entries.push({ path, text, about });
    say("units", units, "units");
    say("decimal", decimal, "units");
    say("name", name.trim() || "My workshop", "name");
    say("sessions_per_week", often.trim(), "often");
    say("people/+", "me", "stature");
    say("people/me/stature", stature.trim() || usual, "stature");
    say("people/me/left_handed", hand === "left" ? "yes" : "no", "stature");
    for (const h of habits) say(`people/me/${h}`, "yes", "stature");
    others.forEach((o, i) => {
      const id = (o.name.trim() || (o.child ? `child ${i + 1}` : `other ${i + 1}`)).replace(/[^\p{L}\p{N}]+/gu, "-");
      say("people/+", id, `other ${i}`);
      say(`people/${id}/child`, o.child ? "yes" : "no", `other ${i}`);
      if (o.stature.trim() !== "") say(`people/${id}/stature`, o.stature.trim(), `other ${i}`);
      else if (o.child) say(`people/${id}/stature`, units === "metric" ? "1100" : `3' 7"`, `other ${i}`);
    });
    say("fixing", fixing, "fixing");
    say("shares", shared, "shares");
    say("makes", made, "makes");
    setBusy(true);
    setWhy(undefined);
    try {
      unwrap(await api.PATCH("/api/v1/facts", changed({ base: revision, entries: entries.map(({ path, text }) => ({ path, text })) })));
      await client.invalidateQueries();
      onBegun();
    } catch (e) {
      const where = e instanceof Refused ? /entries\[(\d+)\]/.exec(e.problem.errors?.[0]?.location ?? "")?.[1] : undefined;
      setWhy({ about: (where !== undefined && entries[Number(where)]?.about) || "all", says: reason(e) });
    } finally {
      setBusy(false);
    }
  };
  const wrong = (about: string) =>
    why?.about === about && (
      <p role="alert" className="m-0 text-small font-semibold text-red">
        {why.says}
      </p>
    );
  // What one comes for is typed at once.
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.select(), []);
  const field = (label: string, value: string, set: (v: string) => void, width: string, placeholder = "") => (
    <input
      ref={label === "What the shop is called" ? first : undefined}
      aria-label={label}
      value={value}
      placeholder={placeholder}
      onChange={(e) => {
        set(e.target.value);
        setWhy(undefined);
      }}
      className={`${width} border-b border-ink bg-transparent px-1 py-0.5 font-semibold placeholder:font-normal placeholder:text-quiet`}
    />
  );

  return (
    <form
      className="flex flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        void begin();
      }}
    >
      <h1 className="m-0 text-head font-bold">Begin your own shop</h1>
      <p className="mt-1 mb-3">
        One page, and all of it can be changed later. Leave what you don't know; then comes the room, what stands in it, and your things.
      </p>
      <Asked label="Called" does="stands at the top, and on what you print">
        {field("What the shop is called", name, setName, "w-65")}
        {wrong("name")}
      </Asked>
      <Asked label="Measured in" does="what a number without a unit means; you can always type the other">
        <span className="flex flex-wrap gap-x-8 gap-y-1">
          <Choices
            as="words"
            label="Measured in"
            value={units}
            choices={[
              { value: "metric", name: "millimetres" },
              { value: "imperial", name: "feet and inches" },
            ]}
            onPick={setUnits}
          />
          <span className="flex items-baseline gap-2">
            <span className="text-small text-quiet">one and a half is</span>
            <Choices
              as="words"
              label="One and a half is written"
              value={decimal}
              choices={[
                { value: "point", name: "1.5" },
                { value: "comma", name: "1,5" },
              ]}
              onPick={setDecimal}
            />
          </span>
        </span>
        {wrong("units")}
      </Asked>
      <Asked label="You" does="how high you reach and how low, and on which side of a bench things hang for you">
        <span className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <span>
            {field("How tall you are", stature, setStature, "w-24", usual)}{" "}
            <span className="text-small text-quiet">tall, without shoes</span>
          </span>
          <Choices
            as="words"
            label="Which hand"
            value={hand}
            choices={[
              { value: "right", name: "right-handed" },
              { value: "left", name: "left-handed" },
            ]}
            onPick={setHand}
          />
        </span>
        <span role="group" aria-label="What you do otherwise" className="mt-1 flex flex-wrap gap-x-4">
          {(
            [
              ["no_kneeling", "no kneeling"],
              ["no_ladder", "no ladder"],
              ["seated", "work seated"],
              ["dim_sight", "read labels badly"],
            ] as const
          ).map(([id, says]) => (
            <Tickbox key={id} on={habits.includes(id)} onChange={(on) => setHabits((h) => (on ? [...h, id] : h.filter((x) => x !== id)))}>
              {says}
            </Tickbox>
          ))}
        </span>
        {wrong("stature")}
      </Asked>
      <Asked label="Who else comes" does="another maker has to reach things too; what could hurt a child is put high or locked away">
        {others.map((o, i) => (
          <span key={i} className="mb-1 flex flex-wrap items-baseline gap-x-3">
            {field(
              `Name of person ${i + 2}`,
              o.name,
              (v) => setOthers((all) => all.map((x, k) => (k === i ? { ...x, name: v } : x))),
              "w-28",
              o.child ? "child" : "name",
            )}
            {field(
              `How tall person ${i + 2} is`,
              o.stature,
              (v) => setOthers((all) => all.map((x, k) => (k === i ? { ...x, stature: v } : x))),
              "w-24",
              o.child ? (units === "metric" ? "1100 mm" : `3' 7"`) : units === "metric" ? "1700 mm" : `5' 7"`,
            )}
            <span className="text-small text-quiet">{o.child ? "tall, a child" : "tall"}</span>
            <Button onClick={() => setOthers((all) => all.filter((_, k) => k !== i))}>Not them</Button>
            {wrong(`other ${i}`)}
          </span>
        ))}
        <span className="flex gap-4">
          <Button onClick={() => setOthers((all) => [...all, { name: "", stature: "", child: false }])}>Another maker</Button>
          <Button onClick={() => setOthers((all) => [...all, { name: "", stature: "", child: true }])}>A child</Button>
        </span>
      </Asked>
      <Asked label="Times a week" does="how much a second saved each time is worth in a week">
        {field("Times a week you work there", often, setOften, "w-14")}
        {wrong("often")}
      </Asked>
      <Asked
        label="Whose room it is"
        does={
          fixing === "anything"
            ? "what may be screwed to walls and ceiling"
            : fixing === "none"
              ? "only storage that stands is offered"
              : "storage that stands goes before storage that hangs; ask before you drill"
        }
      >
        <Choices
          as="words"
          label="What may be fixed"
          value={fixing}
          choices={[
            { value: "anything", name: "mine, drill where I like" },
            { value: "few-holes", name: "rented, few holes" },
            { value: "none", name: "rented, no holes" },
          ]}
          onPick={setFixing}
        />
      </Asked>
      <Asked label="What else lives there" does="each gets its room on the floor, and the rest is planned round it">
        <Several label="What else lives there" text={shared} choices={words("shares")} onType={setShared} />
      </Asked>
      <Asked label="What you make, and how" does="tick lists offer first what people have who make it">
        <Several label="What you make" text={made} choices={words("makes")} onType={setMade} />
      </Asked>
      {wrong("all")}
      <div className="mt-4 flex items-center gap-4">
        <button type="submit" disabled={busy} className="bg-blue px-4 py-2 font-bold text-sheet hover:brightness-110 disabled:opacity-60">
          Begin, and go on to the room
        </button>
      </div>
    </form>
  );
}

/** Asked is one question with what its answer does. */
function Asked({ label, does, children }: { label: string; does: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[9.5rem_minmax(0,1fr)] gap-x-4 border-t border-line py-2 max-md:grid-cols-1">
      <span className="font-semibold">{label}</span>
      <div className="flex min-w-0 flex-col">
        {children}
        <span className="mt-0.5 text-small text-quiet">{does}</span>
      </div>
    </div>
  );
}
