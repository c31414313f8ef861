import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, onto, unwrap } from "../api/client";
import { useChange } from "../app/shop";
import type { components } from "../api/schema.gen";

type S = components["schemas"];
export type DueToday = S["DueToday"];
export type DueItem = S["DueItem"];
export type Upkeep = S["ShopUpkeep"];
export type Stock = S["ShopStock"];
export type Records = S["Set-recordsRequest"];

/** useDue is what is due today, with what it is worked out from. */
export const useDue = (revision: number) =>
  useQuery({ queryKey: ["due", revision], queryFn: async () => unwrap(await api.GET("/api/v1/due")), placeholderData: keepPreviousData });

const noted = () => "Noted.";
const id = (id: string) => ({ path: { id } });

export const useSetUpkeep = () =>
  useChange(
    async (v: { base: number; upkeep: Upkeep[] }) =>
      unwrap(await api.PUT("/api/v1/upkeep", { headers: onto(v.base), body: { upkeep: v.upkeep } })),
    noted,
  );

export const useDone = () =>
  useChange(
    async (v: { base: number; id: string }) =>
      unwrap(await api.POST("/api/v1/upkeep/{id}/done", { params: id(v.id), headers: onto(v.base), body: {} })),
    () => "Done; its next day counts from today.",
  );

export const usePutOff = () =>
  useChange(
    async (v: { base: number; id: string; until: string; why: string }) =>
      unwrap(
        await api.POST("/api/v1/upkeep/{id}/put-off", {
          params: id(v.id),
          headers: onto(v.base),
          body: { until: v.until, why: v.why },
        }),
      ),
    () => "Put off.",
  );

export const useDull = () =>
  useChange(
    async (v: { base: number; id: string; dull: boolean }) =>
      unwrap(await api.PUT("/api/v1/items/{id}/dull", { params: id(v.id), headers: onto(v.base), body: { dull: v.dull } })),
    () => "Noted; it waits for a batch.",
  );

export const useSharpened = () =>
  useChange(
    async (v: { base: number; items: string[] }) =>
      unwrap(await api.POST("/api/v1/edges/sharpened", { headers: onto(v.base), body: { items: v.items } })),
    () => "Sharp again.",
  );

export const useSetStock = () =>
  useChange(
    async (v: { base: number; id: string; stock?: Stock }) =>
      unwrap(
        await api.PUT("/api/v1/items/{id}/stock", {
          params: id(v.id),
          headers: onto(v.base),
          body: v.stock ? { stock: v.stock } : {},
        }),
      ),
    noted,
  );

export const useUseStock = () =>
  useChange(
    async (v: { base: number; id: string; n: number }) =>
      unwrap(await api.POST("/api/v1/items/{id}/stock/used", { params: id(v.id), headers: onto(v.base), body: { n: v.n } })),
    noted,
  );

export const useSetLimbo = () =>
  useChange(
    async (v: { base: number; id: string; body: S["Set-limboRequest"] }) =>
      unwrap(await api.PUT("/api/v1/items/{id}/limbo", { params: id(v.id), headers: onto(v.base), body: v.body })),
    noted,
  );

export const useSetRecords = () =>
  useChange(
    async (v: { base: number; body: Records }) => unwrap(await api.PATCH("/api/v1/records", { headers: onto(v.base), body: v.body })),
    noted,
  );

/** useFeed is the address of the feed, once it is asked for, and another one. */
export function useFeed(asked: boolean) {
  const client = useQueryClient();
  const feed = useQuery({ queryKey: ["feed"], queryFn: async () => unwrap(await api.GET("/api/v1/due/feed")), enabled: asked });
  const change = async () => {
    client.setQueryData(["feed"], unwrap(await api.POST("/api/v1/due/feed")));
  };
  return { path: feed.data?.path, change };
}
