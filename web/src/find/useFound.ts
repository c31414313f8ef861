import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, keys, unwrap } from "../api/client";

/** useFound is what some letters find; what the letters before them found stays meanwhile. */
export function useFound(q: string, revision: number) {
  return useQuery({
    queryKey: keys.find(q, revision),
    enabled: q.trim() !== "",
    queryFn: async () => unwrap(await api.GET("/api/v1/find", { params: { query: { q } } })),
    placeholderData: keepPreviousData,
  });
}
