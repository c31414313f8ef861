import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Outlet, useLocation, useNavigate } from "react-router";
import { toast, Toaster } from "sonner";
import { mine } from "../api/base";
import { type Answer, type Found, type Item, type Round } from "../api/client";
import { FindBox } from "../find/FindBox";
import { useFit } from "../fit/useFit";
import { useFree } from "../free/useFree";
import { Carried } from "../places/Carried";
import type { Proposed } from "../places/Places";
import { useCarry, type Hung, type Landed } from "../places/useCarry";
import { useMovePlace } from "../places/useMovePlace";
import { find as findScreen } from "../screens/find";
import { begin as beginScreen } from "../screens/begin";
import { first as firstScreen } from "../screens/first";
import { fit as fitScreen } from "../screens/fit";
import { places as placesScreen } from "../screens/places";
import { useWhy } from "../sheet/useWhy";
import { Ghost } from "../stage/Ghost";
import { segmentAt } from "../stage/geometry";
import { lenses } from "../stage/lenses";
import { useDrag } from "../stage/useDrag";
import { goTo, goToMiddle, middle, seeView } from "../stage/view";
import { Hints } from "../ui/Hint";
import { BenchProvider, type Bench } from "./bench";
import { useCommandKeys, useLetters, type Command, type Told } from "./commands";
import { Next, showSteps } from "./Next";
import { home, screens } from "./screens";
import { useChanges, useConnected, useDone, useGiveBest, useGiveHome, useRedo, useSeen, useTakeHome, useUndo } from "./shop";
import { useShown } from "./shown";
import { keep } from "./stored";
import { StageFrame } from "./StageFrame";
import { Top } from "./Top";
import { usePhone } from "./usePhone";
import { writeWithComma } from "../units";
import { UnitsOfShop } from "./useUnits";

const Ask = lazy(() => import("../ui/Ask").then((m) => ({ default: m.Ask })));
const Bar = lazy(() => import("./Bar").then((m) => ({ default: m.Bar })));
const Keys = lazy(() => import("../ui/Keys"));
const Print = lazy(() => import("./Print"));
const Palette = lazy(() => import("./Palette"));

/** told are the keys that parts of screens look after themselves. */
const told: Told[] = [
  { keys: "← →", name: "In the round and in the tray: from thing to thing, or from place to place" },
  { keys: "↑ ↓", name: "In the round: to the place of a thing, and into a place" },
  { keys: "Page Down", name: "In the round: to the next wall" },
  { keys: "Enter", name: "In the survey: on to the next number that is missing" },
  { keys: "Space", name: "In the list: select the row; with Shift and an arrow, several" },
  { keys: "Mod d", name: "In the list: fill down" },
];

/** App is the bench: the bar above, the round in the middle, the sheet beside it, tray and key plan below. */
export function App() {
  const seen = useSeen();
  useChanges();
  if (seen.isPending) return <p className="p-6 text-quiet">Loading the shop…</p>;
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
  const { selected, select, reveal, revealed, lens, setLens, studs, setStuds, lamp, setLamp } = useShown();
  const location = useLocation();
  const navigate = useNavigate();
  const phone = usePhone();
  const input = useRef<HTMLInputElement>(null);
  const [keysShown, setKeysShown] = useState(false);
  const [palette, setPalette] = useState(false);
  const [printing, setPrinting] = useState<number>();
  const [plan, setPlan] = useState(true);
  const [letters, setLetters] = useLetters();
  const connected = useConnected();
  const undo = useUndo();
  const redo = useRedo();
  const give = useGiveHome();
  const giveBest = useGiveBest();
  const take = useTakeHome();
  const screen = screens.find((s) => s.path === location.pathname) ?? home;
  // A shop of which nothing is said opens on the page that begins it.
  useEffect(() => {
    if (standing.fresh && screen === home) void navigate(beginScreen.path, { replace: true });
  }, [standing.fresh, screen, navigate]);
  const fitting = screen === fitScreen || screen === firstScreen;
  const fit = useFit(revision, fitting);
  useEffect(() => {
    document.title = `${screen.name} · ${standing.name}`;
  }, [screen.name, standing.name]);
  const [proposed, setProposed] = useState<Proposed>();
  // The other screens are fetched once this one is there and nothing is going on.
  useEffect(() => {
    const later = setTimeout(() => screens.forEach((s) => void s.fetch?.().catch(() => undefined)), 2500);
    return () => clearTimeout(later);
  }, []);
  const free = useFree(lens === "free")?.free;

  const round = fitting && plan && fit.proposal ? fit.proposal.round : standing;
  const moved = useMemo(
    () => (fitting && plan && fit.proposal ? new Set(fit.proposal.moves.map((m) => m.item)) : undefined),
    [fitting, plan, fit.proposal],
  );
  const item = selected?.kind === "item" ? round.items.find((i) => i.id === selected.id) : undefined;
  const place = selected?.kind === "place" ? round.places.find((p) => p.id === selected.id) : undefined;
  const stand = round === standing;
  const why = useWhy(item && stand ? item.id : undefined, revision).data;

  // Show what was asked for: scroll so that it stands in the middle.
  const spot = item ?? place;
  const answered = useRef(0);
  useEffect(() => {
    if (answered.current === revealed || !spot) return;
    answered.current = revealed;
    const s = round.elevations[spot.elevation];
    if (!s) return;
    const x =
      "pieces" in spot ? (spot.hidden ? (round.places.find((p) => p.id === spot.place)?.x ?? 0) : (spot.pieces[0]?.x ?? 0)) : spot.x;
    goToMiddle(s.offset + x);
  }, [revealed, spot, round]);

  const onDrop = useCallback(
    (dropped: Item, answer: Answer) => {
      if (answer.allowed) give.mutate({ item: dropped.id, base: revision, spot: answer.spot });
      else toast.error(`${dropped.name} can't live in ${answer.spot.place}: ${answer.why}.`);
      if (!phone) select({ kind: "item", id: dropped.id }); // a sheet from below would hide what was just done
    },
    [give, revision, select, phone],
  );
  const rolled = useRef(0);
  const wall = (step: number) => {
    // While the round still rolls, the next step starts from where it is going.
    const view = seeView();
    const from = view.goal !== undefined && performance.now() - rolled.current < 900 ? view.goal : view.from;
    rolled.current = performance.now();
    const at = round.elevations.findLastIndex((s) => s.offset <= from + 2);
    const here = round.elevations[at];
    const back = step < 0 && here && from > here.offset + 5 ? at : at + step;
    const s = round.elevations[Math.max(0, Math.min(round.elevations.length - 1, back))];
    if (s) goTo(s.offset);
  };
  // Held at the end of the one wall that a phone shows, it goes on to the next one.
  const turned = useRef(0);
  const onEnd = (step: 1 | -1) => {
    if (!phone || performance.now() - turned.current < 900) return;
    turned.current = performance.now();
    wall(step);
  };
  const { drag, press: hold, lift } = useDrag(standing, onDrop, onEnd);
  const movePlace = useMovePlace();
  const done = useDone();
  const [refused, setRefused] = useState<{ what: Hung; to: Landed; broken: string[] }>();
  const move = (what: Hung, to: Landed) =>
    movePlace.mutate(
      { base: revision, id: what.id, at: to, typed: {} },
      {
        onSuccess: (r) => done(`${what.id} moved to ${to.wall}, and what is in it.`, r),
        onError: (e) => toast.error(e.message, { duration: 9000 }),
      },
    );
  const carrying = useCarry(
    standing,
    (what, to, answer) => (answer.allowed ? move(what, to) : setRefused({ what, to, broken: answer.broken })),
    onEnd,
  );

  const placeBest = useCallback(
    (i: Item) =>
      giveBest.mutate({ item: i.id, name: i.name, base: revision }, { onSuccess: () => select({ kind: "item", id: i.id }, true) }),
    [giveBest, revision, select],
  );

  const choose = (f: Found) => {
    if (f.kind === "kit") {
      keep(() => sessionStorage, mine("kept fetched together"), JSON.stringify(`kit:${f.id}`));
      void navigate({ pathname: "/out" });
      return;
    }
    const next = new URLSearchParams(location.search);
    next.delete("on");
    if (f.kind === "item" || f.kind === "place") next.set("on", `${f.kind}:${f.id}`);
    void navigate({ pathname: "/find", search: next.toString() });
    if (f.kind === "item" || f.kind === "place") reveal();
    else {
      const thing = standing.things.find((t) => t.id === f.id);
      const s = thing && standing.elevations[thing.elevation];
      if (s) goToMiddle(s.offset + thing.x);
    }
  };
  const startFit = useCallback(
    (items?: string[]) => {
      select(undefined);
      setPlan(true);
      void navigate({ pathname: "/fit" });
      fit.start(undefined, undefined, items);
    },
    [fit, navigate, select],
  );

  const page = screen.Page !== undefined;
  const print = () => setPrinting(Math.max(0, segmentAt(standing, middle())));
  const commands: Command[] = [
    {
      name: "Find a thing or a place",
      keys: ["/"],
      hidden: true,
      run: () => (input.current?.offsetParent ? (input.current.focus(), input.current.select()) : setPalette(true)),
    },
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
    { name: "Give the selected thing its best free spot", keys: ["Enter"], off: !item || page, run: () => item && placeBest(item) },
    {
      name: "Move what is selected with the arrow keys; Enter puts it down",
      keys: ["m"],
      off: page || !stand || (!item && !place),
      run: () => {
        if (item) lift(item, middle());
        else if (place && !carrying.lift(place))
          toast(`${place.id} stands on the floor or is part of something that does. Type where it goes under “Where it is”.`);
      },
    },
    {
      name: "Clear the selected thing's home",
      keys: ["Delete"],
      off: !item?.place || !stand || page,
      run: () => item && take.mutate({ item: item.id, base: revision }),
    },
    { name: "Undo", keys: ["u", "Mod z"], run: () => undo.mutate(revision) },
    { name: "Redo", keys: ["U", "Mod Shift z"], run: () => redo.mutate(revision) },
    { name: lamp ? "Lamp off (dark)" : "Lamp on (light)", keys: ["l"], run: () => setLamp(!lamp) },
    {
      name: "Print or save a picture",
      keys: page ? ["p"] : ["p", "Mod p"],
      run: print,
    },
    { name: letters ? "Turn single-letter keys off" : "Turn single-letter keys on", run: () => setLetters(!letters) },
    { name: "Show next steps", run: showSteps },
    { name: "Deselect", keys: ["Escape"], hidden: true, run: () => select(undefined) },
    { name: "Keys", keys: ["?"], run: () => setKeysShown(true) },
  ];
  useCommandKeys(commands);

  const client = useQueryClient();
  useEffect(() => {
    // What was pressed while the shop's machine was out of reach.
    if (connected) void import("../daily/press").then((m) => m.flush(client)).catch(() => undefined);
  }, [connected, client]);

  const bench = useMemo<Bench>(
    () => ({ round: standing, revision, fit, plan, setPlan, startFit, propose: setProposed }),
    [standing, revision, fit, plan, startFit],
  );
  const onPick = (s: (typeof screens)[number]) => s === findScreen && setTimeout(() => input.current?.focus());
  const carry = carrying.carry;
  const box = <FindBox ref={input} round={standing} revision={revision} onChoose={choose} />;
  writeWithComma(standing.comma);
  return (
    <UnitsOfShop value={standing.units} key={String(standing.comma)}>
      <BenchProvider value={bench}>
        <Hints>
          <div className="flex h-full flex-col">
            <Top
              shop={standing.name}
              screen={screen}
              connected={connected}
              onPick={onPick}
              onUndo={() => undo.mutate(revision)}
              onRedo={() => redo.mutate(revision)}
              onKeys={() => setKeysShown(true)}
              onFind={() => setPalette(true)}
            >
              {!phone && box}
            </Top>
            {phone && screen === findScreen && <div className="border-b border-line px-3 py-2">{box}</div>}
            <Next revision={revision} screen={screen} />
            {page ? (
              <main id="work" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none">
                <Suspense fallback={<p className="p-6 text-quiet">Opening…</p>}>
                  <Outlet />
                </Suspense>
              </main>
            ) : (
              <StageFrame
                screen={screen}
                round={round}
                standing={standing}
                revision={revision}
                moved={moved}
                drag={drag}
                free={free}
                proposed={
                  carry?.target
                    ? { ...carry.target, w: carry.what.w, h: carry.what.h, bad: carry.answer?.allowed === false }
                    : screen === placesScreen
                      ? proposed
                      : undefined
                }
                station={item?.used_at[0]}
                path={why && why.path.length > 1 ? why.path : undefined}
                onHold={stand ? hold : undefined}
                onCarry={stand ? carrying.start : undefined}
                onPlace={placeBest}
                onPrint={print}
              />
            )}
            {phone && (
              <Suspense fallback={<div className="h-12" />}>
                <Bar screen={screen} onPick={onPick} onKeys={() => setKeysShown(true)} />
              </Suspense>
            )}
          </div>
          {drag && <Ghost drag={drag} round={standing} />}
          {carry && <Carried carry={carry} units={standing.units} />}
          {refused && (
            <Suspense>
              <Ask
                open
                onOpenChange={(open) => !open && setRefused(undefined)}
                title={`Move ${refused.what.id} there anyway?`}
                yes="Move it anyway"
                no="Leave it where it is"
                danger
                onYes={() => move(refused.what, refused.to)}
              >
                <p>
                  On wall {refused.to.wall}, {refused.broken.length === 1 ? "a rule would be broken" : "rules would be broken"}:
                </p>
                <ul className="mt-1 list-disc pl-5">
                  {refused.broken.map((b) => (
                    <li key={b}>{b}</li>
                  ))}
                </ul>
              </Ask>
            </Suspense>
          )}
          {palette && (
            <Suspense>
              <Palette
                open={palette}
                setOpen={setPalette}
                commands={commands}
                round={standing}
                revision={revision}
                onScreen={(s) => void navigate({ pathname: s.path, search: location.search })}
                onWall={(x) => {
                  if (page) void navigate({ pathname: home.path, search: location.search });
                  goTo(x);
                }}
                onFound={choose}
              />
            </Suspense>
          )}
          {printing !== undefined && (
            <Suspense>
              <Print open setOpen={(on) => !on && setPrinting(undefined)} round={standing} wall={printing} />
            </Suspense>
          )}
          {keysShown && (
            <Suspense>
              <Keys open={keysShown} setOpen={setKeysShown} commands={commands} told={told} />
            </Suspense>
          )}
          {/* A notice sends the focus back to where it came from; with Tab one would never get past it. */}
          <div className="contents" onFocusCapture={(e) => e.stopPropagation()}>
            <Toaster
              position="bottom-left"
              // Over the round, so that it lies on nothing that is pressed or dragged.
              offset={{ bottom: page ? 24 : 184, left: 16 }}
              mobileOffset={{ bottom: 64, left: 12, right: 12 }}
              toastOptions={{
                className: "!rounded-none !border !border-ink !bg-sheet !text-ink !text-body !shadow-none !font-sans",
                classNames: { actionButton: "!rounded-none !bg-blue !px-2 !py-1 !text-small !font-bold !text-sheet thumb:!min-h-11" },
              }}
            />
          </div>
          <span className="sr-only" data-testid="revision" data-revision={revision} data-screen={screen.path.slice(1)} />
        </Hints>
      </BenchProvider>
    </UnitsOfShop>
  );
}
