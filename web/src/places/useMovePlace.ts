import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, keys, onto, unwrap } from "../api/client";

/** useMovePlace puts a place somewhere else. It stands by itself: the round needs it at once, the rest of places later. */
export function useMovePlace() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (v: {
      base: number;
      id: string;
      at: { area: string; wall?: string; x?: number; z?: number; floor?: [number, number]; rot?: number };
      typed: Record<string, string>;
    }) =>
      unwrap(
        await api.PUT("/api/v1/places/{id}/at", {
          params: { path: { id: v.id } },
          headers: onto(v.base),
          body: { at: v.at, typed: v.typed },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.round }),
  });
}
