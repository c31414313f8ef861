import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap } from "../api/client";
import { useListChange } from "../belongings/useList";

/** useWorking is how the shop is worked in: families, those that must stay together, prices. */
export const useWorking = (revision: number) => useQuery({ queryKey: keys.working(revision), queryFn: async () => unwrap(await api.GET("/api/settings/working")), placeholderData: (old) => old }).data;

/** useLearned is what the log shows to be used otherwise than was said. */
export const useLearned = (revision: number) => useQuery({ queryKey: keys.learned(revision), queryFn: async () => unwrap(await api.GET("/api/learned")), placeholderData: (old) => old }).data;

export const useTogether = () => useListChange(async (v: { base: number; families: string[] }) => unwrap(await api.PUT("/api/settings/together", { body: v })));

export const usePrices = () => useListChange(async (v: { base: number; currency: string; sheet: number; rail: number }) => unwrap(await api.PUT("/api/settings/prices", { body: v })));

export const useTakeLearned = () => useListChange(async (v: { base: number; items?: string[] }) => unwrap(await api.POST("/api/learned/take", { body: v })));

export const useUsed = () => useListChange(async (v: { id: string; base: number }) => unwrap(await api.POST("/api/items/{id}/used", { params: { path: { id: v.id } }, body: { base: v.base } })));

/** useSwaps are the swaps of homes that would save most. */
export const useSwaps = (revision: number) => useQuery({ queryKey: keys.swaps(revision), queryFn: async () => unwrap(await api.GET("/api/swaps", { params: { query: { n: 5 } } })), placeholderData: (old) => old }).data;

export const useSwap = () => useListChange(async (v: { base: number; items: string[] }) => unwrap(await api.POST("/api/swaps", { body: v })));
