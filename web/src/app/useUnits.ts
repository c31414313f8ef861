import { createContext, useContext } from "react";
import type { Units } from "../units";

/** The units of the shop that is open. */
export const UnitsOfShop = createContext<Units>("metric");

export const useUnits = (): Units => useContext(UnitsOfShop);
