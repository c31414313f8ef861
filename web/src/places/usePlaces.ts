import { keepPreviousData, useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { api, keys, unwrap, type Whereabout, onto } from "../api/client";

/** Wish is what storage must hold and how large it may be, as typed. */
export interface Wish {
  items: string[];
  reserve: number;
  width: string;
  height: string;
  depth: string;
}

const sent = (w: Wish) => ({
  items: w.items,
  reserve: w.reserve,
  ...(w.width.trim() && { width: w.width }),
  ...(w.height.trim() && { height: w.height }),
  ...(w.depth.trim() && { depth: w.depth }),
});

/** useDesigns are all kinds of storage sized for a wish. */
export function useDesigns(wish: Wish, revision: number) {
  return useQuery({
    queryKey: keys.designs(wish, revision),
    queryFn: async () => unwrap(await api.POST("/api/v1/storage/size", { body: sent(wish) })),
    enabled: wish.items.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
}

const whereOf = (wish: Wish, kind: string, revision: number) => ({
  queryKey: keys.where(wish, kind, revision),
  queryFn: async () => unwrap(await api.POST("/api/v1/storage/where", { body: { ...sent(wish), kind } })),
  retry: false as const,
});

/** useBest is the best spot of each of some kinds, as the answers come in. */
export function useBest(wish: Wish, kinds: string[], revision: number) {
  return useQueries({ queries: kinds.map((k) => whereOf(wish, k, revision)) });
}

/** useWhere are the walls that take a design; asked only when wanted. */
export function useWhere(wish: Wish, kind: string | undefined, revision: number, wanted: boolean) {
  return useQuery({ ...whereOf(wish, kind ?? "", revision), enabled: wanted && kind !== undefined && wish.items.length > 0 });
}

function useShopChange<V, R>(change: (v: V) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: keys.round }),
    onError: (e: Error) => void toast.error(e.message, { duration: 9000 }),
  });
}

/** spotAt is where something is put, of a spot that was found. */
export const spotAt = (s: Whereabout) => ({
  area: s.area,
  ...(s.on
    ? { on: s.on, x: s.x, y: s.y, z: s.z }
    : s.station
      ? { station: s.station, x: s.x }
      : s.ceiling
        ? { ceiling: s.ceiling, z: s.z }
        : s.floor
          ? { floor: s.floor, rot: s.rot }
          : { wall: s.wall, x: s.x, z: s.z }),
});

export function useInstall() {
  return useShopChange(async (v: { base: number; wish: Wish; kind: string; spot: Whereabout }) =>
    unwrap(
      await api.POST("/api/v1/storage", {
        headers: onto(v.base),
        body: {
          ...sent(v.wish),
          kind: v.kind,
          at: spotAt(v.spot),
        },
      }),
    ),
  );
}

export function useSetPlace() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (v: { base: number; id: string; field: string; text: string }) =>
      unwrap(
        await api.PATCH("/api/v1/places/{id}", {
          params: { path: { id: v.id } },
          headers: onto(v.base),
          body: { field: v.field, text: v.text },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.round }),
  });
}

export function useRemovePlace() {
  return useShopChange(async (v: { base: number; id: string }) =>
    unwrap(await api.DELETE("/api/v1/places/{id}", { params: { path: { id: v.id } }, headers: onto(v.base) })),
  );
}

export function useLayout(id: string, revision: number) {
  return useQuery({
    queryKey: keys.layout(id, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/places/{id}/layout", { params: { path: { id } } })),
    placeholderData: (old) => old,
  }).data;
}
