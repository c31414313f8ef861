import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, keys, onto, unwrap, type CutList } from "../api/client";
import { useChange } from "../app/shop";
import type { components } from "../api/schema.gen";

type S = components["schemas"];

/** useWood is the wood there is. */
export const useWood = (revision: number) =>
  useQuery({
    queryKey: keys.wood(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/wood")),
    placeholderData: (before) => before,
  }).data;

/** lines of a field, empty ones left out. */
export const lines = (text: string) =>
  text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);

/** useAddWood takes lines into stock. */
export function useAddWood() {
  return useChange(
    async (v: { base: number; text: string }) =>
      unwrap(await api.POST("/api/v1/wood", { headers: onto(v.base), body: { lines: lines(v.text) } })),
    (r) =>
      r.homeless > 0
        ? `In stock; ${r.homeless === 1 ? "one line finds" : `${r.homeless} lines find`} no room on any rack.`
        : "In stock, and on its rack.",
  );
}

/** useSetWood says something of a piece. */
export function useSetWood(said: string) {
  return useChange(
    async (v: { base: number; id: string; body: S["Set-woodRequest"] }) =>
      unwrap(await api.PATCH("/api/v1/wood/{id}", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.body })),
    () => said,
  );
}

/** useCutLists keeps the lists of parts. */
export function useCutLists() {
  return useChange(
    async (v: { base: number; lists: CutList[] }) =>
      unwrap(await api.PUT("/api/v1/wood/cut-lists", { headers: onto(v.base), body: { lists: v.lists } })),
    () => "Kept.",
  );
}

/** useTakeCuts books a plan that was carried out. */
export function useTakeCuts() {
  const client = useQueryClient();
  return useChange(
    async (v: { base: number; id: number }) => {
      const r = unwrap(await api.POST("/api/v1/wood/cuts/{id}/take", { params: { path: { id: v.id } }, headers: onto(v.base) }));
      void client.invalidateQueries({ queryKey: keys.uses });
      return r;
    },
    (r) =>
      r.came.length === 0
        ? "Booked. Nothing worth keeping was left."
        : `Booked. ${r.came.length === 1 ? "One offcut is" : `${r.came.length} offcuts are`} in stock: ${r.came
            .slice(0, 3)
            .map((c) => `${c.name}${c.place ? ` in ${c.place}` : ""}`)
            .join(", ")}${r.came.length > 3 ? " …" : ""}`,
  );
}

/** usePlanCuts works a plan of cuts out. */
export const usePlanCuts = () =>
  useMutation({ mutationFn: async (body: S["CutAsked"]) => unwrap(await api.POST("/api/v1/wood/cuts", { body })) });

/** useFindWood looks for pieces that serve a part. */
export const useFindWood = () =>
  useMutation({ mutationFn: async (body: S["Find-woodRequest"]) => unwrap(await api.POST("/api/v1/wood/find", { body })) });

/** useDelivery asks where a delivery would lie. */
export const useDelivery = () =>
  useMutation({ mutationFn: async (text: string) => unwrap(await api.POST("/api/v1/wood/delivery", { body: { lines: lines(text) } })) });

/** useGlueUp asks how many clamps a panel takes. */
export const useGlueUp = () =>
  useMutation({ mutationFn: async (body: S["Glue-upRequest"]) => unwrap(await api.POST("/api/v1/wood/glue-up", { body })) });
