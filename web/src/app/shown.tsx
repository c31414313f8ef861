import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";

export interface Selected {
  kind: "item" | "place" | "free";
  id: string;
}

/** View is the part of the round on screen, in mm, and where it was asked to go. */
interface View {
  from: number;
  to: number;
  goal?: number;
  stamp: number;
  jump: boolean;
}

interface Shown {
  selected: Selected | undefined;
  /** reveal scrolls the round to what is selected */
  select: (s: Selected | undefined, reveal?: boolean) => void;
  /** reveal scrolls the round to what is selected by then */
  reveal: () => void;
  revealed: number;
  lens: string;
  setLens: (id: string) => void;
  studs: boolean;
  setStuds: (on: boolean) => void;
  lamp: boolean;
  setLamp: (on: boolean) => void;
  view: View;
  setView: (v: { from: number; to: number }) => void;
  go: (x: number, jump?: boolean) => void;
}

const Context = createContext<Shown | undefined>(undefined);

/** useShown is what is selected, in the URL, and how the stage is looked at. */
export function useShown(): Shown {
  const shown = useContext(Context);
  if (!shown) throw new Error("useShown outside of ShownProvider");
  return shown;
}

export function ShownProvider({ children }: { children: ReactNode }) {
  const [params, setParams] = useSearchParams();
  const [revealed, setRevealed] = useState(0);
  const [view, setViewState] = useState<View>({ from: 0, to: 1, stamp: 0, jump: false });
  const [lamp, setLampState] = useState(() => document.documentElement.dataset.lamp !== "off");

  const put = useCallback(
    (name: string, value: string | undefined) =>
      setParams(
        () => {
          // Of the address bar, not of the last render: two keys may come between two renders.
          const next = new URLSearchParams(window.location.search);
          if (value) next.set(name, value);
          else next.delete(name);
          return next;
        },
        { replace: true },
      ),
    [setParams],
  );
  const select = useCallback(
    (s: Selected | undefined, reveal = false) => {
      put("on", s && `${s.kind}:${s.id}`);
      if (reveal) setRevealed((n) => n + 1);
    },
    [put],
  );
  const reveal = useCallback(() => setRevealed((n) => n + 1), []);
  const setLens = useCallback((id: string) => put("lens", id || undefined), [put]);
  const setStuds = useCallback((on: boolean) => put("studs", on ? "1" : undefined), [put]);
  const setLamp = useCallback((on: boolean) => {
    setLampState(on);
    if (on) delete document.documentElement.dataset.lamp;
    else document.documentElement.dataset.lamp = "off";
    localStorage.setItem("lamp", on ? "on" : "off");
  }, []);
  const setView = useCallback(
    (v: { from: number; to: number }) => setViewState((old) => (old.from === v.from && old.to === v.to ? old : { ...old, ...v })),
    [],
  );
  const go = useCallback(
    (x: number, jump = false) => setViewState((old) => ({ ...old, goal: Math.max(0, x), stamp: old.stamp + 1, jump })),
    [],
  );

  const on = params.get("on") ?? "";
  const lens = params.get("lens") ?? "";
  const studs = params.has("studs");
  const value = useMemo<Shown>(() => {
    const [kind, ...rest] = on.split(":");
    const selected = (kind === "item" || kind === "place" || kind === "free") && rest.length > 0 ? { kind, id: rest.join(":") } : undefined;
    return {
      selected: selected as Selected | undefined,
      select,
      reveal,
      revealed,
      lens,
      setLens,
      studs,
      setStuds,
      lamp,
      setLamp,
      view,
      setView,
      go,
    };
  }, [on, select, reveal, revealed, lens, setLens, studs, setStuds, lamp, setLamp, view, setView, go]);
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
