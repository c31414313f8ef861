import { later } from "../app/later";
import type { Screen } from "../app/screens";

const [Page, fetch] = later(() => import("../devices/Devices"));

/** devices are the phones and other machines that are let in. */
export const devices: Screen = { path: "/devices", name: "Devices", Page, fetch };
