import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap } from "../api/client";

/** useWhy asks the core why an item lives where it does. */
export function useWhy(id: string | undefined, revision: number) {
  return useQuery({
    queryKey: keys.why(id ?? "", revision),
    enabled: id !== undefined,
    queryFn: async () => unwrap(await api.GET("/api/v1/items/{id}/why", { params: { path: { id: id ?? "" } } })),
    placeholderData: (old) => (old?.item === id ? old : undefined),
  });
}
