import { useQuery } from "@tanstack/react-query";
import { api, keys, onto, unwrap, type FloorLayout, type Station } from "../api/client";
import { useChange } from "../app/shop";
import { seconds } from "../units";

/** Standpoint is where a station is to stand: a spot with its turn, or the best one by a wish. */
export interface Standpoint {
  floor?: [number, number];
  rot?: number;
  wall?: string;
  by?: string;
  middle?: boolean;
}

/** useStations are the stations of the shop, as they are kept. */
export function useStations(revision: number): Station[] | undefined {
  return useQuery({
    queryKey: keys.stations(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/stations", {})),
    placeholderData: (before) => before,
  }).data;
}

/** useLayouts are the floor as it stands and in each mode. */
export function useLayouts(revision: number): FloorLayout[] | undefined {
  return useQuery({
    queryKey: keys.layouts(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/floor-layouts", {})),
    placeholderData: (before) => before,
  }).data;
}

/** Spot is where something is in a mode. */
export interface Spot {
  state?: "stands" | "folded" | "hoisted" | "outdoors" | "away";
  floor?: [number, number];
  rot?: number;
}

/** useSetSpot says where something is in a mode; without a spot it is where it stands otherwise. */
export function useSetSpot() {
  return useChange(async (v: { base: number; mode: string; thing: string; to: Spot | undefined }): Promise<Stood> => {
    const at = { params: { path: { id: v.mode, thing: v.thing } }, headers: onto(v.base) };
    if (v.to) return unwrap(await api.PUT("/api/v1/modes/{id}/spots/{thing}", { ...at, body: v.to }));
    return { revision: unwrap(await api.DELETE("/api/v1/modes/{id}/spots/{thing}", at)), blocked: "" };
  }, said);
}

/** useMakeRoom finds something a spot in a mode, with the fewest other things moved there. */
export function useMakeRoom() {
  return useChange(
    async (v: { base: number; mode: string; thing: string }) =>
      unwrap(
        await api.POST("/api/v1/modes/{id}/room", { params: { path: { id: v.mode } }, headers: onto(v.base), body: { thing: v.thing } }),
      ),
    (r) =>
      `${r.made.steps.map((s) => (s.state === "folded" ? `${s.name} folded` : `${s.name} at its spot`)).join(", ")}: changing over takes ${seconds(r.made.seconds)}${r.made.stuck.length > 0 ? `, but ${r.made.stuck.join("; ")}` : ""}.`,
  );
}

interface Stood {
  revision: { id: number; what: string };
  blocked: string;
}

/** said is what was done, and what is in the way of it. */
export const said = (r: Stood) => (r.blocked === "" ? `${r.revision.what}.` : `${r.revision.what}, but ${r.blocked}.`);

export function useMoveStation() {
  return useChange(
    async (v: { base: number; id: string; to: Standpoint }) =>
      unwrap(await api.PUT("/api/v1/stations/{id}/spot", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.to })),
    said,
  );
}

export function useChangeStation() {
  return useChange(
    async (v: {
      base: number;
      id: string;
      change: {
        name?: string;
        wished?: string;
        when?: "" | "circuit" | "next-room";
        mobility?: Station["mobility"];
        casters?: Station["casters"] | "";
        amps?: number;
        typed?: Record<string, string>;
      };
    }) => unwrap(await api.PATCH("/api/v1/stations/{id}", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.change })),
    said,
  );
}

export function useRemoveStation() {
  return useChange(
    async (v: { base: number; id: string; instead?: string }) =>
      unwrap(
        await api.DELETE("/api/v1/stations/{id}", { params: { path: { id: v.id }, query: { instead: v.instead } }, headers: onto(v.base) }),
      ),
    (r) => `${r.what}.`,
  );
}

/** useStationAsItem puts a station on the list of things: it wants a home from then on. */
export function useStationAsItem() {
  return useChange(
    async (v: { base: number; id: string; instead?: string }) =>
      unwrap(
        await api.POST("/api/v1/stations/{id}/item", {
          params: { path: { id: v.id }, query: { instead: v.instead } },
          headers: onto(v.base),
        }),
      ),
    () => "It is on the list of belongings now.",
  );
}

/** middleOf is the middle of a station, which a turn leaves where it is. */
export const middleOf = (s: Pick<Station, "x" | "y" | "w" | "d">): [number, number] => [s.x + s.w / 2, s.y + s.d / 2];

/** corners of a station on the floor: its front is the side from the first to the second. */
export function corners(s: Pick<Station, "x" | "y" | "w" | "d" | "rot">): [number, number][] {
  const [cx, cy] = middleOf(s);
  const a = ((s.rot ?? 0) * Math.PI) / 180;
  return (
    [
      [-s.w / 2, -s.d / 2],
      [s.w / 2, -s.d / 2],
      [s.w / 2, s.d / 2],
      [-s.w / 2, s.d / 2],
    ] as const
  ).map(([u, v]) => [cx + u * Math.cos(a) - v * Math.sin(a), cy + u * Math.sin(a) + v * Math.cos(a)]);
}

/** useSetsOff is what bringing a station in would set off. */
export function useSetsOff(id: string, revision: number, asked: boolean) {
  return useQuery({
    queryKey: keys.setsOff(id, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/stations/{id}/sets-off", { params: { path: { id }, query: {} } })),
    enabled: asked,
  });
}
