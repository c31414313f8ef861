import { useState } from "react";
import type { Needed, Round } from "../api/client";
import { Ask } from "../ui/Ask";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Tickbox } from "../ui/Tickbox";
import { TypedIn } from "../ui/TypedIn";
import { useDropKit, usePutKit } from "./useDaily";

/** idOf a kit by what it is called. */
const idOf = (name: string, taken: readonly string[]) => {
  const plain = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40);
  let id = plain || "kit";
  for (let n = 2; taken.includes(id); n++) id = `${plain || "kit"}-${n}`;
  return id;
};

/** Kits makes a kit, or changes one: its name, what belongs to it, where it is put down on the way. */
export function Kits({
  round,
  revision,
  kit,
  taken,
  from,
  onDone,
}: {
  round: Round;
  revision: number;
  /** the kit that is changed; a new one when there is none */
  kit?: Needed;
  /** ids that kits have already */
  taken: readonly string[];
  /** what a new one begins with */
  from?: Needed;
  onDone: (id: string) => void;
}) {
  const [name, setName] = useState(kit?.name ?? "");
  const [items, setItems] = useState((kit ?? from)?.items.map((w) => ({ item: w.item, n: w.n })) ?? []);
  const [drops, setDrops] = useState<string[]>(kit?.drops ? [...kit.drops] : []);
  const [notes, setNotes] = useState(kit?.notes ?? "");
  const [typed, setTyped] = useState("");
  const put = usePutKit();
  const drop = useDropKit();
  const called = (id: string) => round.items.find((i) => i.id === id)?.name ?? id;
  const letters = typed.trim().toLowerCase();
  const offered =
    letters.length < 2
      ? []
      : round.items.filter((i) => i.name.toLowerCase().includes(letters) && !items.some((x) => x.item === i.id)).slice(0, 6);
  return (
    <div className="mt-2 border border-ink bg-sheet p-3" data-testid="kit">
      <Labelled label="called" width="w-72">
        <TypedIn key={name} value={name} onDone={setName} onTyped={() => undefined} className="border-b border-line font-bold" />
      </Labelled>
      <ul className="m-0 mt-1 list-none p-0">
        {items.map((x) => (
          <li key={x.item} className="flex items-baseline justify-between gap-2 border-b border-line py-0.5">
            <span>{called(x.item)}</span>
            <span className="flex items-baseline gap-3">
              <TypedIn
                key={x.n}
                value={String(x.n)}
                onDone={(text) => {
                  const n = Math.round(Number(text));
                  if (n >= 1) setItems((l) => l.map((y) => (y.item === x.item ? { ...y, n } : y)));
                }}
                onTyped={() => undefined}
                className="w-8 border-b border-line text-right"
              />
              <Button onClick={() => setItems((l) => l.filter((y) => y.item !== x.item))}>Leave out</Button>
            </span>
          </li>
        ))}
      </ul>
      <label className="mt-1 flex items-baseline gap-2">
        <span className="text-small text-quiet">add a thing</span>
        <input
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            const first = offered[0];
            if (e.key !== "Enter" || !first) return;
            setItems((l) => [...l, { item: first.id, n: 1 }]);
            setTyped("");
          }}
          className="min-w-0 flex-1 border-b border-line bg-transparent"
        />
      </label>
      {offered.length > 0 && (
        <div className="flex flex-wrap gap-x-3">
          {offered.map((i) => (
            <Button
              key={i.id}
              onClick={() => {
                setItems((l) => [...l, { item: i.id, n: 1 }]);
                setTyped("");
              }}
            >
              {i.name}
            </Button>
          ))}
        </div>
      )}
      <p className="mt-1 mb-0 text-small text-quiet">put down on the way at</p>
      <div className="flex flex-wrap gap-x-4">
        {round.plan.stations.map((s) => (
          <Tickbox
            key={s.id}
            on={drops.includes(s.id)}
            onChange={(on) => setDrops((l) => (on ? [...l, s.id] : l.filter((d) => d !== s.id)))}
          >
            {s.name}
          </Tickbox>
        ))}
      </div>
      <Labelled label="notes" width="w-full">
        <TypedIn key={notes} value={notes} onDone={setNotes} onTyped={() => undefined} className="w-full border-b border-line" />
      </Labelled>
      <p className="mt-2 mb-0 flex gap-4">
        <Button
          kind="main"
          disabled={name.trim() === "" || items.length === 0 || put.isPending}
          onClick={() => {
            const id = kit?.id ?? idOf(name, taken);
            put.mutate({ base: revision, id, name: name.trim(), items, drops, notes }, { onSuccess: () => onDone(id) });
          }}
        >
          Keep the kit
        </Button>
        {kit && (
          <Ask
            title={`Let ${kit.name} go?`}
            yes="Let it go"
            no="Keep it"
            danger
            onYes={() => drop.mutate({ base: revision, id: kit.id }, { onSuccess: () => onDone("") })}
            trigger={<Button>Let it go</Button>}
          >
            <p className="m-0">Its things stay where they are.</p>
          </Ask>
        )}
      </p>
    </div>
  );
}
