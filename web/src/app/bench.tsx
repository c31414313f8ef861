import { createContext, useContext } from "react";
import type { Round } from "../api/client";
import type { Fit } from "../fit/useFit";
import type { Proposed } from "../places/Places";

/** Bench is what every screen works on: the shop as it stands, the plan beside it, what is asked of the stage. */
export interface Bench {
  /** the shop as it stands */
  round: Round;
  revision: number;
  fit: Fit;
  /** the plan is shown, not the shop as it stands */
  plan: boolean;
  setPlan: (on: boolean) => void;
  /** look for homes, for some things only or for all */
  startFit: (items?: string[]) => void;
  /** storage that is not there yet, drawn on the stage */
  propose: (p: Proposed | undefined) => void;
}

const Context = createContext<Bench | undefined>(undefined);

export const BenchProvider = Context.Provider;

/** useBench is what a screen works on. */
export function useBench(): Bench {
  const bench = useContext(Context);
  if (!bench) throw new Error("useBench outside of the bench");
  return bench;
}
