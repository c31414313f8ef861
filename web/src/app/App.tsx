import { Lightbulb, LightbulbOff, Redo2, Undo2 } from "lucide-react";
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Outlet, useLocation, useNavigate } from "react-router";
import { toast, Toaster } from "sonner";
import { api, unwrap, type Answer, type Found, type Item, type Round } from "../api/client";
import { find as findScreen } from "../screens/find";
import { fit as fitScreen } from "../screens/fit";
import { places as placesScreen } from "../screens/places";
import { FindBox } from "../find/FindBox";
import { useFit } from "../fit/useFit";
import { useWhy } from "../sheet/ItemSheet";
import { ShopSheet } from "../sheet/ShopSheet";
import { depthsIn, m2ByDepth, useFree } from "../free/useFree";
import { Ghost } from "../stage/Ghost";
import { KeyPlan } from "../stage/KeyPlan";
import { counts, lenses } from "../stage/lenses";
import { Stage } from "../stage/Stage";
import { Tape } from "../stage/Tape";
import { Tray } from "../stage/Tray";
import { useDrag } from "../stage/useDrag";
import { Carried } from "../places/Carried";
import type { Proposed } from "../places/Places";
import { useCarry } from "../places/useCarry";
import { useMovePlace } from "../places/usePlaces";
import { BenchProvider, type Bench } from "./bench";
import { useCommandKeys, type Command, type Told } from "./commands";
import { Inspector } from "./Inspector";
import { home, screens } from "./screens";
import { Ways } from "./Ways";
import { useChanges, useConnected, useGiveHome, useRedo, useSeen, useTakeHome, useUndo } from "./shop";
import { useShown } from "./shown";
import { squares } from "../units";
import { UnitsOfShop } from "./useUnits";

const Keys = lazy(() => import("../ui/Keys"));
const Palette = lazy(() => import("./Palette"));

/** told are the keys that parts of screens look after themselves. */
const told: Told[] = [
  { keys: "← →", name: "In the round and in the tray: from thing to thing" },
  { keys: "Enter", name: "In the survey: on to the next number that is missing" },
  { keys: "Space", name: "In the list: select the row; with Shift and an arrow, several" },
  { keys: "Ctrl d", name: "In the list: fill down" },
];

/** App is the bench: the bar above, the round in the middle, the sheet beside it, tray and key plan below. */
export function App() {
  const seen = useSeen();
  useChanges();
  if (seen.isPending) return <p className="p-6 text-quiet">Looking round the shop…</p>;
  if (seen.isError)
    return (
      <div className="p-6">
        <h1 className="text-lg font-bold">Hobrak can't load the shop</h1>
        <p className="text-red">{seen.error.message}</p>
        <button className="mt-2 font-semibold text-blue" onClick={() => void seen.refetch()}>
          Try again
        </button>
      </div>
    );
  return <BenchOf round={seen.data.round} revision={seen.data.revision} />;
}

function BenchOf({ round: standing, revision }: { round: Round; revision: number }) {
  const { selected, select, reveal, revealed, view, go, lens, setLens, studs, setStuds, lamp, setLamp } = useShown();
  const location = useLocation();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [keysShown, setKeysShown] = useState(false);
  const [palette, setPalette] = useState(false);
  const [plan, setPlan] = useState(true);
  const connected = useConnected();
  const undo = useUndo();
  const redo = useRedo();
  const give = useGiveHome();
  const take = useTakeHome();
  const screen = screens.find((s) => s.path === location.pathname) ?? home;
  const fitting = screen === fitScreen;
  const fit = useFit(revision, fitting);
  useEffect(() => {
    document.title = `${screen.name} · ${standing.name}`;
  }, [screen.name, standing.name]);
  const [proposed, setProposed] = useState<Proposed>();
  const free = useFree(lens === "free")?.free;

  const round = fitting && plan && fit.proposal ? fit.proposal.round : standing;
  const moved = useMemo(
    () => (fitting && plan && fit.proposal ? new Set(fit.proposal.moves.map((m) => m.item)) : undefined),
    [fitting, plan, fit.proposal],
  );
  const item = selected?.kind === "item" ? round.items.find((i) => i.id === selected.id) : undefined;
  const place = selected?.kind === "place" ? round.places.find((p) => p.id === selected.id) : undefined;
  const why = useWhy(item && round === standing ? item.id : undefined, revision).data;

  // Show what was asked for: scroll so that it stands in the middle.
  const spot = item ?? place;
  const answered = useRef(revealed);
  useEffect(() => {
    if (answered.current === revealed || !spot) return;
    answered.current = revealed;
    const s = round.elevations[spot.elevation];
    if (!s) return;
    const x =
      "pieces" in spot ? (spot.hidden ? (round.places.find((p) => p.id === spot.place)?.x ?? 0) : (spot.pieces[0]?.x ?? 0)) : spot.x;
    go(s.offset + x - (view.to - view.from) / 2);
  }, [revealed, spot, round, go, view.to, view.from]);

  const onDrop = useCallback(
    (dropped: Item, answer: Answer) => {
      if (answer.allowed) give.mutate({ item: dropped.id, base: revision, spot: answer.spot });
      else toast.error(`${dropped.name} may not live in ${answer.spot.place}: ${answer.why}.`);
    },
    [give, revision],
  );
  const onPress = useCallback((i: Item) => select({ kind: "item", id: i.id }), [select]);
  const { drag, start } = useDrag(standing, onPress, onDrop);
  const movePlace = useMovePlace();
  const { carry, start: startCarry } = useCarry(standing, (c) =>
    movePlace.mutate(
      { base: revision, id: c.id, at: { area: c.area, wall: c.wall, x: c.x, z: c.z }, typed: {} },
      {
        onSuccess: () => toast(`${c.id} moved to ${c.wall}, and what is in it. Undo with u.`),
        onError: (e) => toast.error(e.message, { duration: 9000 }),
      },
    ),
  );

  const placeBest = useCallback(
    async (i: Item) => {
      const best = unwrap(await api.GET("/api/v1/items/{id}/best", { params: { path: { id: i.id } } }));
      if (best.allowed) {
        give.mutate({ item: i.id, base: revision, spot: best.spot }, { onSuccess: () => select({ kind: "item", id: i.id }, true) });
      } else toast.error(`${i.name} finds no home: ${best.why}.`);
    },
    [give, revision, select],
  );

  const choose = (f: Found) => {
    const next = new URLSearchParams(location.search);
    next.delete("on");
    if (f.kind === "item" || f.kind === "place") next.set("on", `${f.kind}:${f.id}`);
    void navigate({ pathname: "/find", search: next.toString() });
    if (f.kind === "item" || f.kind === "place") reveal();
    else {
      const thing = standing.things.find((t) => t.id === f.id);
      const s = thing && standing.elevations[thing.elevation];
      if (s) go(s.offset + thing.x - (view.to - view.from) / 2);
    }
  };
  const startFit = useCallback(
    (items?: string[]) => {
      select(undefined);
      setPlan(true);
      void navigate({ pathname: "/fit" });
      void fit.start(undefined, undefined, items);
    },
    [fit, navigate, select],
  );

  const rolled = useRef(0);
  const wall = (step: number) => {
    // While the round still rolls, the next step starts from where it is going.
    const from = view.goal !== undefined && performance.now() - rolled.current < 900 ? view.goal : view.from;
    rolled.current = performance.now();
    const at = round.elevations.findLastIndex((s) => s.offset <= from + 2);
    const here = round.elevations[at];
    const back = step < 0 && here && from > here.offset + 5 ? at : at + step;
    const s = round.elevations[Math.max(0, Math.min(round.elevations.length - 1, back))];
    if (s) go(s.offset);
  };
  const page = screen.Page !== undefined;
  const stand = round === standing;
  const commands: Command[] = [
    { name: "Find a thing or a place", keys: ["/"], hidden: true, run: () => (input.current?.focus(), input.current?.select()) },
    { name: "Find anything: things, walls, screens, commands", keys: ["Mod k"], hidden: true, run: () => setPalette(true) },
    { name: "Previous wall", keys: ["["], off: page, run: () => wall(-1) },
    { name: "Next wall", keys: ["]"], off: page, run: () => wall(1) },
    ...lenses.map((l) => ({
      name: `Lens: ${l.name.toLowerCase()}`,
      keys: [l.key],
      off: page && !screen.lenses?.includes(l.id),
      run: () => setLens(lens === l.id ? "" : l.id),
    })),
    { name: studs ? "Hide studs" : "Show studs", keys: ["s"], off: page, run: () => setStuds(!studs) },
    { name: "Find better homes", keys: ["f"], run: () => startFit() },
    { name: "Switch between the plan and as it stands", keys: ["."], off: !fit.proposal, run: () => setPlan((p) => !p) },
    { name: "Give the selected thing its best free spot", keys: ["Enter"], off: !item, run: () => item && void placeBest(item) },
    {
      name: "Take the selected thing's home away",
      keys: ["Delete"],
      off: !item?.place || !stand,
      run: () => item && take.mutate({ item: item.id, base: revision }),
    },
    { name: "Undo", keys: ["u", "Mod z"], run: () => undo.mutate(revision) },
    { name: "Redo", keys: ["U", "Mod Shift z"], run: () => redo.mutate(revision) },
    { name: lamp ? "Lamp off (dark)" : "Lamp on (light)", keys: ["l"], run: () => setLamp(!lamp) },
    { name: "Deselect", keys: ["Escape"], hidden: true, run: () => select(undefined) },
    { name: "Keys", keys: ["?"], run: () => setKeysShown(true) },
  ];
  useCommandKeys(commands);

  const bench = useMemo<Bench>(
    () => ({ round: standing, revision, fit, plan, setPlan, startFit, propose: setProposed }),
    [standing, revision, fit, plan, startFit],
  );
  const units = standing.units;
  const shownLens = lenses.find((l) => l.id === lens);
  const station = item?.used_at[0];
  return (
    <UnitsOfShop value={units}>
      <BenchProvider value={bench}>
        <div className="flex h-full min-w-240 flex-col">
          <header className="flex h-11.5 shrink-0 items-center gap-4 border-b border-line px-4">
            <h1 className="flex min-w-0 items-baseline gap-2 text-xl font-extrabold whitespace-nowrap">
              Hobrak <span className="truncate text-small font-normal text-quiet">{standing.name}</span>
            </h1>
            <Ways screen={screen} onPick={(s) => s === findScreen && setTimeout(() => input.current?.focus())} />
            <div className="ml-auto flex items-center gap-1" role="group" aria-label="Undo and view">
              <Tool label="Undo (u)" onClick={() => undo.mutate(revision)}>
                <Undo2 size={17} />
              </Tool>
              <Tool label="Do again (Shift u)" onClick={() => redo.mutate(revision)}>
                <Redo2 size={17} />
              </Tool>
              <Tool label={lamp ? "Lamp off (l)" : "Lamp on (l)"} onClick={() => setLamp(!lamp)}>
                {lamp ? <Lightbulb size={17} /> : <LightbulbOff size={17} />}
              </Tool>
              <Tool label="Keys (?)" onClick={() => setKeysShown(true)}>
                <span className="px-0.5 font-bold">?</span>
              </Tool>
            </div>
            {!connected && (
              <p
                role="status"
                className="m-0 shrink-0 border border-red bg-sheet px-2 py-0.5 text-small font-semibold text-red"
                title="Hobrak does not answer. What you see may be old; it connects again by itself."
              >
                Not connected
              </p>
            )}
            <FindBox ref={input} revision={revision} onChoose={choose} />
          </header>
          {screen.Page ? (
            <main className="flex min-h-0 flex-1 flex-col">
              <Suspense fallback={<p className="p-6 text-quiet">Opening…</p>}>
                <Outlet />
              </Suspense>
            </main>
          ) : (
            <>
              <main className="flex min-h-0 flex-1 flex-col">
                <div className="flex items-end gap-2 pr-4">
                  <div className="min-w-0 flex-1">
                    <Tape round={round} />
                  </div>
                  <div className="flex h-8 shrink-0 items-center border border-line bg-sheet px-1" role="group" aria-label="Lens">
                    {lenses.map((l) => (
                      <button
                        key={l.id}
                        aria-pressed={lens === l.id}
                        onClick={() => setLens(lens === l.id ? "" : l.id)}
                        className={`px-2 py-0.5 text-small ${lens === l.id ? "bg-ink text-paper" : "hover:bg-paper"}`}
                      >
                        {l.name}
                      </button>
                    ))}
                    <span className="mx-1 h-4 border-l border-line" />
                    <button
                      aria-pressed={studs}
                      onClick={() => setStuds(!studs)}
                      className={`px-2 py-0.5 text-small ${studs ? "bg-ink text-paper" : "hover:bg-paper"}`}
                    >
                      Studs
                    </button>
                  </div>
                </div>
                <div className="flex min-h-0 flex-1 gap-3 py-2 pr-4">
                  <div className="relative flex min-w-0 flex-1 flex-col">
                    <Stage
                      round={round}
                      moved={moved}
                      drag={drag}
                      free={free}
                      proposed={carry ? { ...carry, bad: carry.answer?.allowed === false } : screen === placesScreen ? proposed : undefined}
                      onCarry={round === standing ? startCarry : undefined}
                      onPick={round === standing ? start : (_, i) => select({ kind: "item", id: i.id })}
                    />
                    {shownLens && (
                      <dl
                        className="absolute bottom-0 left-29 m-0 flex gap-4 border border-line bg-sheet px-3 py-1 text-small"
                        aria-label={`Lens ${shownLens.name}`}
                      >
                        {(shownLens.about === "walls" ? depthsIn(units) : shownLens.steps).map((s, i) => (
                          <div key={s.label} className="flex items-center gap-1.5">
                            <dt className="flex items-center gap-1.5">
                              <span className="inline-block h-3 w-3" style={{ background: s.colour }} aria-hidden />
                              {s.label}
                            </dt>
                            <dd className="m-0 font-bold">
                              {shownLens.about === "walls"
                                ? free
                                  ? squares(m2ByDepth(free.walls, units)[i] ?? 0, units)
                                  : "…"
                                : counts(shownLens, round)[i]}
                            </dd>
                          </div>
                        ))}
                      </dl>
                    )}
                  </div>
                  <Inspector round={round} standing={standing} revision={revision} free={free} onPlace={(i) => void placeBest(i)} />
                  {screen.Panel ? (
                    <Suspense fallback={<div className="w-72.5" />}>
                      <Outlet />
                    </Suspense>
                  ) : (
                    !selected && lens !== "free" && <ShopSheet revision={revision} round={standing} />
                  )}
                </div>
              </main>
              <footer className="flex h-43 shrink-0 border-t border-line">
                <Tray round={round} onPick={start} onPlace={(i) => void placeBest(i)} />
                <div className="flex w-76.5 shrink-0 flex-col border-l border-line px-3 py-1.5">
                  <KeyPlan round={round} station={station} path={why && why.path.length > 1 ? why.path : undefined} />
                </div>
              </footer>
            </>
          )}
          <Ghost drag={drag} />
          {carry && <Carried carry={carry} />}
          {palette && (
            <Suspense>
              <Palette
                open={palette}
                setOpen={setPalette}
                commands={commands}
                round={standing}
                revision={revision}
                onScreen={(s) => void navigate({ pathname: s.path, search: location.search })}
                onWall={(x) => (page ? void navigate({ pathname: home.path, search: location.search }) : undefined, go(x))}
                onFound={choose}
              />
            </Suspense>
          )}
          {keysShown && (
            <Suspense>
              <Keys open={keysShown} setOpen={setKeysShown} commands={commands} told={told} />
            </Suspense>
          )}
          <Toaster
            position="bottom-center"
            toastOptions={{ className: "!rounded-none !border !border-ink !bg-sheet !text-ink !shadow-none !font-sans" }}
          />
          <span className="sr-only" data-testid="revision" data-revision={revision} data-screen={screen.path.slice(1)} />
        </div>
      </BenchProvider>
    </UnitsOfShop>
  );
}

function Tool({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <button aria-label={label} title={label} onClick={onClick} className="flex h-8 w-8 items-center justify-center hover:bg-sheet">
      {children}
    </button>
  );
}
