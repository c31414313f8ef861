import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { api, keys, unwrap, changed } from "../api/client";
import type { components } from "../api/schema.gen";
import { happened } from "../app/shop";
import { useListChange } from "../belongings/useList";

/** useWorking is how the shop is worked in: families, those that must stay together, prices. */
export const useWorking = (revision: number) =>
  useQuery({
    queryKey: keys.working(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/settings/working")),
    placeholderData: (old) => old,
  }).data;

/** useLearned is what the log shows to be used otherwise than was said. */
export const useLearned = (revision: number) =>
  useQuery({
    queryKey: keys.learned(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/learned")),
    placeholderData: (old) => old,
  }).data;

export const useTogether = () =>
  useListChange(async (v: { base: number; families: string[] }) => unwrap(await api.PUT("/api/v1/settings/together", changed(v))));

export const usePrices = () =>
  useListChange(async (v: { base: number; currency: string; sheet: number; rail: number }) =>
    unwrap(await api.PUT("/api/v1/settings/prices", changed(v))),
  );

export const useTakeLearned = () =>
  useListChange(async (v: { base: number; items?: string[] }) => unwrap(await api.POST("/api/v1/learned/take", changed(v))));

/** useUses is how often things were used in the last 90 days, and when last. */
export const useUses = () => useQuery({ queryKey: keys.uses, queryFn: async () => unwrap(await api.GET("/api/v1/uses")) }).data;

/** useUsed notes that a thing was used; the toast takes it back. */
export function useUsed() {
  const client = useQueryClient();
  const note = async (body: components["schemas"]["Happening"]) => unwrap(await api.POST("/api/v1/events", { body }));
  const again = () => happened(client);
  return useMutation({
    mutationFn: (v: { id: string; name: string }) => note({ what: "used", item: v.id, device: "screen" }),
    onSuccess: (e, v) => {
      again();
      toast(`${v.name}: used today.`, {
        action: { label: "Take back", onClick: () => void note({ what: "taken-back", corrects: e.id }).then(again) },
      });
    },
    onError: (e) => toast.error(e.message),
  });
}

/** useSwaps are the swaps of homes that would save most. */
export const useSwaps = (revision: number) =>
  useQuery({
    queryKey: keys.swaps(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/swaps", { params: { query: { n: 5 } } })),
    placeholderData: (old) => old,
  }).data;

export const useSwap = () =>
  useListChange(async (v: { base: number; items: string[] }) => unwrap(await api.POST("/api/v1/swaps", changed(v))));
