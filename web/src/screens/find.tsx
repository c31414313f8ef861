import type { Screen } from "../app/screens";

/** find is the shop as it stands with the field to find in. */
export const find: Screen = { path: "/find", name: "Find" };
