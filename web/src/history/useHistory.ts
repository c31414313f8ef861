import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type Revision } from "../api/client";

const page = 50;

/** useHistory is what was changed, newest first, of one thing or of all; more is asked for page by page. */
export function useHistory(of: string, revision: number) {
  return useInfiniteQuery({
    queryKey: keys.history(of, revision),
    queryFn: async ({ pageParam }) =>
      unwrap(
        await api.GET("/api/v1/revisions", { params: { query: { of: of || undefined, before: pageParam || undefined, limit: page } } }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last: Revision[]) => (last.length === page ? last.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  });
}
