import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap } from "../api/client";
import { groups, thumbed, type Group, type Screen } from "../app/screens";

/** useRole is what this device may do; everything until the server says otherwise. */
export function useRole(): "maker" | "household" | "guest" {
  const session = useQuery({
    queryKey: keys.session,
    queryFn: async () => unwrap(await api.GET("/api/v1/session")),
    staleTime: 60_000,
  }).data;
  return session?.role ?? "maker";
}

/** paths of the screens that are for others than makers. */
const forOthers = { household: ["/find", "/out", "/round", "/places"], guest: ["/find", "/round", "/places", "/floor"] };

/** useGroups are the screens this device has a use for. */
export function useGroups(): { groups: readonly Group[]; thumbed: readonly Screen[] } {
  const role = useRole();
  if (role === "maker") return { groups, thumbed };
  const paths = forOthers[role];
  const only = (list: readonly Screen[]) => list.filter((s) => paths.includes(s.path));
  return {
    groups: groups.map((g) => ({ ...g, screens: only(g.screens) })).filter((g) => g.screens.length > 0),
    thumbed: only(groups.flatMap((g) => g.screens)).sort((a, b) => paths.indexOf(a.path) - paths.indexOf(b.path)),
  };
}
