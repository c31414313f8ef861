import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, keys, unwrap } from "../api/client";

/** useCheck is what the check finds in the shop as it stands. */
export function useCheck(revision: number) {
  return useQuery({
    queryKey: keys.check(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/check")),
    placeholderData: keepPreviousData,
  });
}
