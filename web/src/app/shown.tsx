import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { stored } from "./stored";
import { NavigationType, useLocation, useNavigate, useNavigationType, useSearchParams } from "react-router";
import { here } from "../api/base";

export interface Selected {
  kind: "item" | "place" | "free";
  id: string;
}

interface Shown {
  selected: Selected | undefined;
  /** reveal scrolls the round to what is selected; along is a step of many, to which Back does not return */
  select: (s: Selected | undefined, reveal?: boolean, along?: boolean) => void;
  /** reveal scrolls the round to what is selected by then */
  reveal: () => void;
  revealed: number;
  lens: string;
  setLens: (id: string) => void;
  studs: boolean;
  setStuds: (on: boolean) => void;
  lamp: boolean;
  setLamp: (on: boolean) => void;
}

/** lamp is whether the screen is light or dark, when somebody said so. */
export const lamp = stored<"" | "on" | "off">("lamp", "");

const Context = createContext<Shown | undefined>(undefined);

/** useShown is what is selected, in the URL, and how the stage is looked at. */
export function useShown(): Shown {
  const shown = useContext(Context);
  if (!shown) throw new Error("useShown outside of ShownProvider");
  return shown;
}

export function ShownProvider({ children }: { children: ReactNode }) {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const [revealed, setRevealed] = useState(0);
  const { key } = useLocation();
  const way = useNavigationType();
  // Who comes back to a thing, or by an address, wants to see it.
  useEffect(() => {
    if (way === NavigationType.Pop && new URLSearchParams(window.location.search).has("on")) setRevealed((n) => n + 1);
  }, [key, way]);
  const [lit, setLampState] = useState(() => document.documentElement.dataset.lamp !== "off");

  const put = useCallback(
    (name: string, value: string | undefined, replace = true) => {
      // Of the address bar, not of the last render: two keys may come between two renders, or another screen was gone to.
      const next = new URLSearchParams(window.location.search);
      if (value) next.set(name, value);
      else next.delete(name);
      void navigate({ pathname: here(), search: next.toString() }, { replace });
    },
    [navigate],
  );
  const select = useCallback(
    (s: Selected | undefined, reveal = false, along = false) => {
      const next = s && `${s.kind}:${s.id}`;
      const last = new URLSearchParams(window.location.search).get("on");
      // Back goes to what was looked at before.
      if (next !== (last ?? undefined)) put("on", next, along || !next);
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
    lamp.set(on ? "on" : "off");
  }, []);

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
      lamp: lit,
      setLamp,
    };
  }, [on, select, reveal, revealed, lens, setLens, studs, setStuds, lit, setLamp]);
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
