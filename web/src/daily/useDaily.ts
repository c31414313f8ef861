import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, keys, onto, unwrap } from "../api/client";
import { useChange } from "../app/shop";
import { press } from "./press";
import type { TapBody } from "./queue";

/** useTap takes, puts back or lends. */
export function useTap() {
  const client = useQueryClient();
  return (body: TapBody, words: string) => press(client, body, words);
}

/** useOut is what is out of its home. */
export const useOut = () => useQuery({ queryKey: keys.out, queryFn: async () => unwrap(await api.GET("/api/v1/out")) }).data;

/** useGuards is what protects people, where it is not as it should be. */
export const useGuards = () => useQuery({ queryKey: keys.guards, queryFn: async () => unwrap(await api.GET("/api/v1/guards")) }).data;

/** useClosing is the round in the evening. */
export const useClosing = (revision: number) =>
  useQuery({
    queryKey: keys.closing(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/closing")),
    placeholderData: (before) => before,
  }).data;

/** useHabits is what the days teach. */
export const useHabits = (revision: number) =>
  useQuery({
    queryKey: keys.habits(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/habits")),
    placeholderData: (before) => before,
  }).data;

/** useNeeded is what is fetched together. */
export const useNeeded = (revision: number) =>
  useQuery({
    queryKey: keys.needed(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/needs")),
    placeholderData: (before) => before,
  }).data;

/** useGather is the round over what a kit, station or project needs. */
export const useGather = (of: string, revision: number) =>
  useQuery({
    queryKey: keys.gather(of, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/gather", { params: { query: { of } } })),
    enabled: of !== "",
    placeholderData: (before) => before,
  }).data;

/** usePutKit makes a kit, or says anew what belongs to it. */
export const usePutKit = () =>
  useChange(
    async (v: { base: number; id: string; name: string; items: { item: string; n?: number }[]; drops?: string[]; notes?: string }) =>
      unwrap(
        await api.PUT("/api/v1/kits/{id}", {
          params: { path: { id: v.id } },
          headers: onto(v.base),
          body: { name: v.name, items: v.items, drops: v.drops, notes: v.notes },
        }),
      ),
    (r) => `${r.what}.`,
  );

/** useDropKit lets a kit go. */
export const useDropKit = () =>
  useChange(
    async (v: { base: number; id: string }) =>
      unwrap(await api.DELETE("/api/v1/kits/{id}", { params: { path: { id: v.id } }, headers: onto(v.base) })),
    (r) => `${r.what}.`,
  );
