import { ChevronLeft, ChevronRight, Printer } from "lucide-react";
import { Suspense, useEffect, useRef } from "react";
import { Outlet } from "react-router";
import type { FreeSpace, Item, Place, Round } from "../api/client";
import { depthsIn, m2ByDepth } from "../free/useFree";
import { ShopSheet } from "../sheet/ShopSheet";
import type { Proposed } from "../places/Places";
import { segmentAt } from "../stage/geometry";
import { KeyPlan } from "../stage/KeyPlan";
import { areasOf } from "../stage/Outlets";
import { useOutlets } from "../supply/useSupply";
import { counts, lenses, plugged } from "../stage/lenses";
import { Stage } from "../stage/Stage";
import { Tape } from "../stage/Tape";
import { Tray } from "../stage/Tray";
import type { Carried } from "../stage/useDrag";
import { goTo, seeView, useView } from "../stage/view";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { Hint } from "../ui/Hint";
import { OnOff } from "../ui/OnOff";
import { squares } from "../units";
import { Inspector } from "./Inspector";
import type { Screen } from "./screens";
import { useShown } from "./shown";
import { useKept } from "./useKept";
import { usePhone } from "./usePhone";

interface Props {
  screen: Screen;
  /** what is drawn, and the shop as it stands */
  round: Round;
  standing: Round;
  revision: number;
  moved?: Set<string>;
  drag?: Carried;
  free?: FreeSpace["free"];
  proposed?: Proposed & { bad?: boolean };
  station?: string;
  path?: number[][];
  onHold?: (e: React.PointerEvent, item: Item) => void;
  onCarry?: (e: React.PointerEvent, place: Place) => void;
  onPlace: (item: Item) => void;
  onPrint: () => void;
}

/** StageFrame is the round with its tools, what is selected beside it, and what has no home below. */
export function StageFrame({
  screen,
  round,
  standing,
  revision,
  moved,
  drag,
  free,
  proposed,
  station,
  path,
  onHold,
  onCarry,
  onPlace,
  onPrint,
}: Props) {
  const { selected, lens, setLens, studs, setStuds } = useShown();
  const phone = usePhone();
  const only = useOneWall(round, phone);
  const shownLens = lenses.find((l) => l.id === lens);
  const outlets = useOutlets(areasOf(round), revision, lens === "supply");
  return (
    <>
      <main id="work" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none max-md:overflow-y-auto">
        <div className="flex items-end gap-2 pr-4 max-lg:flex-wrap max-md:px-3 max-md:pt-1">
          {only === undefined ? (
            <div className="min-w-0 flex-1 max-lg:basis-full">
              <Tape round={round} />
            </div>
          ) : (
            <OneWall round={round} at={only} />
          )}
          <div
            className="flex h-8 shrink-0 items-center border border-line bg-sheet px-1 max-lg:ml-4 max-md:ml-0 max-md:max-w-full max-md:overflow-x-auto thumb:h-11"
            role="group"
            aria-label="Stage"
          >
            <Choices
              as="strip"
              label="Lens"
              value={lens}
              none
              choices={lenses.map((l) => ({ value: l.id, name: l.name }))}
              onPick={setLens}
            />
            <span className="mx-1 h-4 border-l border-line" />
            <OnOff on={studs} onChange={setStuds}>
              Studs
            </OnOff>
            <span className="mx-1 h-4 border-l border-line" />
            <Hint says="Print or save a picture (p)">
              <Button kind="tool" label="Print or save a picture" className="hover:bg-paper" onClick={onPrint}>
                <Printer size={15} aria-hidden />
              </Button>
            </Hint>
          </div>
        </div>
        <div className="relative flex min-h-0 flex-1 gap-3 py-2 pr-4 max-lg:gap-0 max-md:flex-none max-md:flex-col max-md:px-3">
          <div className="relative flex min-w-0 flex-1 flex-col max-md:h-[46dvh] max-md:min-h-60 max-md:flex-none">
            <Stage
              round={round}
              revision={revision}
              only={only}
              moved={moved}
              drag={drag}
              free={free}
              proposed={proposed}
              onHold={onHold}
              onCarry={onCarry}
            />
            {shownLens && (
              <dl
                className={`m-0 flex flex-wrap gap-x-4 border border-line bg-sheet px-3 py-1 text-small ${phone ? "" : "absolute bottom-0 left-29"}`}
                aria-label={`Lens ${shownLens.name}`}
              >
                {(shownLens.about === "walls" ? depthsIn(standing.units) : shownLens.steps).map((s, i) => (
                  <div key={s.label} className="flex items-center gap-1.5">
                    <dt className="flex items-center gap-1.5">
                      <span className="swatch inline-block h-3 w-3" style={{ background: s.colour }} aria-hidden />
                      {s.label}
                    </dt>
                    <dd className="m-0 font-bold">
                      {shownLens.about === "walls"
                        ? free
                          ? squares(m2ByDepth(free.walls, standing.units)[i] ?? 0, standing.units)
                          : "…"
                        : shownLens.about === "outlets"
                          ? [...outlets.values()].filter((o) => plugged(o) === i).length
                          : counts(shownLens, round)[i]}
                    </dd>
                  </div>
                ))}
              </dl>
            )}
          </div>
          <div className="contents max-lg:*:w-100 max-md:*:w-full max-lg:absolute max-lg:inset-y-2 max-lg:right-4 max-lg:z-20 max-lg:flex max-md:fixed max-md:inset-x-0 max-md:top-auto max-md:bottom-[calc(3rem+1px+env(safe-area-inset-bottom))] max-md:z-30 max-md:max-h-[58dvh] max-md:flex-col max-md:overflow-y-auto">
            <Inspector round={round} standing={standing} revision={revision} free={free} onPlace={onPlace} />
          </div>
          {phone && !screen.Panel && <Tray round={round} onHold={onHold} onPlace={onPlace} />}
          {screen.Panel ? (
            <Suspense fallback={<div className="w-72.5" />}>
              <Outlet />
            </Suspense>
          ) : (
            (phone || (!selected && lens !== "free")) && <ShopSheet revision={revision} round={standing} />
          )}
        </div>
      </main>
      {!phone && (
        <footer className="flex h-43 shrink-0 border-t border-line">
          <Tray round={round} onHold={onHold} onPlace={onPlace} />
          <div className="flex w-76.5 shrink-0 flex-col border-l border-line px-3 py-1.5 max-lg:w-56">
            <KeyPlan round={round} station={station} path={path} />
          </div>
        </footer>
      )}
    </>
  );
}

/** useOneWall is the wall that is shown where there is room for one only. */
function useOneWall(round: Round, phone: boolean): number | undefined {
  const [wall, setWall] = useKept("wall", 0);
  const stamp = useView((v) => v.stamp);
  const followed = useRef(stamp);
  useEffect(() => {
    if (stamp === followed.current) return;
    followed.current = stamp;
    const { goal = 0, from, to } = seeView();
    const exact = round.elevations.findIndex((s) => Math.abs(s.offset - goal) < 2);
    const at = exact >= 0 ? exact : segmentAt(round, goal + (to - from) / 2);
    if (at >= 0) setWall(at);
  }, [stamp, round, setWall]);
  return phone && round.elevations.length > 0 ? Math.min(wall, round.elevations.length - 1) : undefined;
}

/** OneWall says which wall is shown and goes to the next one. */
function OneWall({ round, at }: { round: Round; at: number }) {
  const s = round.elevations[at];
  const to = (step: number) => {
    const next = round.elevations[(at + step + round.elevations.length) % round.elevations.length];
    if (next) goTo(next.offset, true);
  };
  return (
    <div className="flex w-full items-center justify-between" role="group" aria-label="Wall">
      <Button kind="tool" label="Previous wall" onClick={() => to(-1)}>
        <ChevronLeft size={20} aria-hidden />
      </Button>
      <b aria-live="polite">{s?.middle ? "In the room" : s?.title}</b>
      <Button kind="tool" label="Next wall" onClick={() => to(1)}>
        <ChevronRight size={20} aria-hidden />
      </Button>
    </div>
  );
}
