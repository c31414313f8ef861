import type { Screen } from "../app/screens";

/** round is the shop as it stands, seen all the way round. */
export const round: Screen = { path: "/round", name: "Round" };
