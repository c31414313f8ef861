import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { api, keys, onto, unwrap } from "../api/client";
import { at } from "../api/base";
import { useChange } from "../app/shop";
import { spotAt } from "../places/usePlaces";
import type { components } from "../api/schema.gen";

type S = components["schemas"];
export type Unit = S["AsMade"];
export type ToBuild = S["ToBuild"];

/** How a unit is made, as far as it was chosen. */
export interface Chosen {
  sheet?: string;
  t?: number;
  thin?: number;
  joint?: "screws" | "rebates" | "dadoes";
  back?: "none" | "on" | "rebated";
  runner?: "none" | "side" | "undermount";
  front?: "overlay" | "inset";
  bevel?: 30 | 45;
  strip?: "where-it-sags" | "always" | "never";
  scrap?: boolean;
}

/** useBuilds is what can be made. */
export const useBuilds = (revision: number) =>
  useQuery({
    queryKey: keys.builds(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/build")),
    placeholderData: keepPreviousData,
  });

/** useUnit is how one of them is made. */
export const useUnit = (id: string, chosen: Chosen, revision: number) =>
  useQuery({
    queryKey: keys.unit(id, JSON.stringify(chosen), revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/build/{id}", { params: { path: { id }, query: chosen } })),
    enabled: id !== "",
    retry: false,
  });

/** sheets is the address of the drawings of a unit. */
export function sheets(id: string, chosen: Chosen, what: string, more: Record<string, string | number> = {}) {
  const query = new URLSearchParams();
  for (const [k, v] of Object.entries({ ...chosen, ...more })) if (v !== undefined && v !== false) query.set(k, String(v));
  return at(`/api/v1/build/${encodeURIComponent(id)}/${what}?${query}`);
}

/** useBuilt says that a unit is built. */
export function useBuilt() {
  return useChange(
    async (v: { base: number; id: string; body: S["BuiltRequest"] }) =>
      unwrap(await api.POST("/api/v1/build/{id}/built", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.body })),
    () => "It is there now.",
  );
}

export type FoundAsked = S["FoundAsked"];

/** useFound judges furniture that was found. */
export const useFound = () =>
  useMutation({ mutationFn: async (body: FoundAsked) => unwrap(await api.POST("/api/v1/found", { body })), retry: false });

/** useKeepFound puts it where it goes. */
export function useKeepFound() {
  return useChange(
    async (v: { base: number; asked: FoundAsked; way: S["FoundWay"]["way"]; spot: S["Whereabout"] }) =>
      unwrap(await api.POST("/api/v1/found/keep", { headers: onto(v.base), body: { ...v.asked, way: v.way, at: spotAt(v.spot) } })),
    () => "It is there now, and what goes in lives there.",
  );
}

/** useApart is what a unit gives when it is taken apart. */
export const useApart = (id: string, chosen: Chosen, revision: number, wanted: boolean) =>
  useQuery({
    queryKey: keys.apart(id, JSON.stringify(chosen), revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/build/{id}/apart", { params: { path: { id }, query: chosen } })),
    enabled: wanted,
    retry: false,
  });

/** useTakeApart takes it apart. */
export function useTakeApart() {
  return useChange(
    async (v: { base: number; id: string; chosen: Chosen }) =>
      unwrap(await api.POST("/api/v1/build/{id}/apart", { params: { path: { id: v.id }, query: v.chosen }, headers: onto(v.base) })),
    (r) => `${r.pieces === 1 ? "One piece" : `${r.pieces} pieces`} in stock${r.homeless > 0 ? "; some find no room on any rack." : "."}`,
  );
}

/** useLining compares what a wall can be lined with. */
export const useLining = (wall: string, area: string, revision: number) =>
  useQuery({
    queryKey: keys.lining(area, wall, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/linings/{wall}", { params: { path: { wall }, query: { area } } })),
    enabled: wall !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
