import { Lightbulb, LightbulbOff, Redo2, Search, Undo2 } from "lucide-react";
import type { ReactNode } from "react";
import { useRole } from "../devices/useSession";
import { Button } from "../ui/Button";
import { Hint } from "../ui/Hint";
import { Ways } from "./Ways";
import type { Screen } from "./screens";
import { useShown } from "./shown";
import { written } from "./commands";

interface Props {
  shop: string;
  screen: Screen;
  connected: boolean;
  onPick: (s: Screen) => void;
  onUndo: () => void;
  onRedo: () => void;
  onKeys: () => void;
  onFind: () => void;
  /** the field to find in, where there is room for it */
  children: ReactNode;
}

/** Top is the line above every screen: whose shop it is, the way through the work, undo, the lamp, finding. */
export function Top({ shop, screen, connected, onPick, onUndo, onRedo, onKeys, onFind, children }: Props) {
  const { lamp, setLamp } = useShown();
  const maker = useRole() === "maker";
  return (
    <header className="flex h-11.5 shrink-0 items-center gap-4 border-b border-line px-4 max-lg:gap-2 max-md:px-3 print:hidden">
      <a href="#work" className="absolute -top-20 left-4 z-50 border border-ink bg-sheet px-3 py-2 font-bold text-blue focus:top-1">
        Skip to {screen.name.toLowerCase()}
      </a>
      <h1 className="flex min-w-0 shrink items-baseline gap-2 text-[1.25rem] font-extrabold whitespace-nowrap max-lg:hidden max-md:flex">
        Hobrak <span className="truncate text-small font-normal text-quiet max-2xl:hidden max-md:inline">{shop}</span>
      </h1>
      <div className="min-w-0 overflow-x-auto max-md:hidden">
        <Ways screen={screen} onPick={onPick} />
      </div>
      <div className="ml-auto flex items-center gap-1" role="group" aria-label="Undo and view">
        {maker && (
          <>
            <Tool label="Undo" k="u" onClick={onUndo}>
              <Undo2 size={17} aria-hidden />
            </Tool>
            <Tool label="Redo" k="U" onClick={onRedo}>
              <Redo2 size={17} aria-hidden />
            </Tool>
          </>
        )}
        <span className="flex max-md:hidden">
          <Tool label={lamp ? "Lamp off" : "Lamp on"} k="l" onClick={() => setLamp(!lamp)}>
            {lamp ? <Lightbulb size={17} aria-hidden /> : <LightbulbOff size={17} aria-hidden />}
          </Tool>
          <Tool label="Keys" k="?" onClick={onKeys}>
            <span className="px-0.5 font-bold" aria-hidden>
              ?
            </span>
          </Tool>
        </span>
        <span className="hidden max-xl:flex">
          <Tool label="Find anything" k="Mod k" onClick={onFind}>
            <Search size={17} aria-hidden />
          </Tool>
        </span>
      </div>
      {!connected && (
        <div role="status" className="shrink-0">
          <Hint says="Hobrak doesn't answer. What you see may be out of date; it connects again by itself.">
            <Button className="m-0 border border-red px-2 py-0.5 text-small text-red">Not connected</Button>
          </Hint>
        </div>
      )}
      <div className="max-xl:hidden">{children}</div>
    </header>
  );
}

function Tool({ label, k, onClick, children }: { label: string; k: string; onClick: () => void; children: ReactNode }) {
  return (
    <Hint
      says={
        <>
          {label} <kbd className="text-quiet">{written(k)}</kbd>
        </>
      }
    >
      <Button kind="tool" label={label} onClick={onClick}>
        {children}
      </Button>
    </Hint>
  );
}
