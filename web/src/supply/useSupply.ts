import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { api, keys, onto, unwrap } from "../api/client";
import { useChange } from "../app/shop";
import type { components } from "../api/schema.gen";

type S = components["schemas"];
export type Supplied = S["Supplied"];
export type OutletLoad = S["SupplyOutletLoad"];

export type StripTyped = S["StripTyped"];
export type StoredSaid = S["ShopStored"];

/** useSupply is what a room supplies in a mode; with °C outside and wanted also how long it takes to get warm. */
export const useSupply = (area: string, mode: string, revision: number, warm: [number, number] = [0, 0], asked = true) =>
  useQuery({
    queryKey: [...keys.supply(area, mode, revision), ...warm],
    queryFn: async () => unwrap(await api.GET("/api/v1/supply", { params: { query: { area, mode, outside: warm[0], wanted: warm[1] } } })),
    placeholderData: keepPreviousData,
    enabled: asked,
    retry: false,
  });

/** useOutlets are the outlets of all areas with what is plugged into them, by id; nothing until they are asked for. */
export const useOutlets = (areas: readonly string[], revision: number, asked: boolean) =>
  useQueries({
    queries: areas.map((area) => ({
      queryKey: [...keys.supply(area, "", revision), 0, 0],
      queryFn: async () => unwrap(await api.GET("/api/v1/supply", { params: { query: { area } } })),
      enabled: asked,
      retry: false,
    })),
    combine: (all) => new Map(all.flatMap((q, i) => (q.data?.outlets ?? []).map((o) => [`${areas[i]}/${o.id}`, o] as const))),
  });

/** useSites are spots where a station would stand better by what it needs, once they are asked for. */
export const useSites = (id: string, mode: string, revision: number, asked: boolean) =>
  useQuery({
    queryKey: ["sites", id, mode, revision],
    queryFn: async () => unwrap(await api.GET("/api/v1/supply/sites/{id}", { params: { path: { id }, query: { mode } } })),
    enabled: asked,
    retry: false,
  });

/** useSetSupply says what a machine needs and gives. */
export function useSetSupply() {
  return useChange(
    async (v: { base: number; id: string; body: S["Set-supplyRequest"] }) =>
      unwrap(await api.PATCH("/api/v1/supply/stations/{id}", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.body })),
    () => "Noted.",
  );
}

/** useSetLamp says how much light a lamp gives. */
export function useSetLamp(area: string) {
  return useChange(
    async (v: { base: number; id: string; lumen: number }) =>
      unwrap(
        await api.PATCH("/api/v1/supply/lamps/{id}", {
          params: { path: { id: v.id }, query: { area } },
          headers: onto(v.base),
          body: { lumen: v.lumen },
        }),
      ),
    () => "Noted.",
  );
}

/** useSetRoom says of a room what light, warmth, air and noise depend on. */
export function useSetRoom(area: string) {
  return useChange(
    async (v: { base: number; body: S["Set-room-supplyRequest"] }) =>
      unwrap(await api.PATCH("/api/v1/supply/room", { params: { query: { area } }, headers: onto(v.base), body: v.body })),
    () => "Noted.",
  );
}

/** useSetStrips says which power strips and reels there are. */
export function useSetStrips() {
  return useChange(
    async (v: { base: number; strips: StripTyped[] }) =>
      unwrap(await api.PUT("/api/v1/supply/strips", { headers: onto(v.base), body: { strips: v.strips } })),
    () => "Noted.",
  );
}

/** useSetStored says what is worked from batteries. */
export function useSetStored() {
  return useChange(
    async (v: { base: number; stored: StoredSaid }) =>
      unwrap(
        await api.PUT("/api/v1/supply/stored", {
          headers: onto(v.base),
          body: (v.stored.batteries ?? []).length === 0 ? {} : { stored: v.stored },
        }),
      ),
    () => "Noted.",
  );
}

/** useSetQuiet says from when to when it must be quiet. */
export function useSetQuiet() {
  return useChange(
    async (v: { base: number; from: string; to: string }) =>
      unwrap(await api.PUT("/api/v1/supply/quiet", { headers: onto(v.base), body: { from: v.from, to: v.to } })),
    () => "Noted.",
  );
}

/** useSetRunning says which machines run at the same time. */
export function useSetRunning() {
  return useChange(
    async (v: { base: number; running: S["ShopTogether"][] }) =>
      unwrap(await api.PUT("/api/v1/supply/running", { headers: onto(v.base), body: { running: v.running } })),
    () => "Noted.",
  );
}
