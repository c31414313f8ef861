import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { api, keys, onto, unwrap, type Revision } from "../api/client";
import { useChange } from "../app/shop";

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

/** useBetween is what is otherwise at a later revision; what was is past, so it is asked once. */
export function useBetween(from: number, to: number) {
  return useQuery({
    queryKey: keys.between(from, to),
    queryFn: async () => unwrap(await api.GET("/api/v1/revisions/{id}/until/{later}", { params: { path: { id: from, later: to } } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
}

/** useGoBack makes the shop what it was after a revision. */
export function useGoBack() {
  return useChange(
    async (v: { base: number; id: number }) =>
      unwrap(await api.POST("/api/v1/revisions/{id}/restore", { params: { path: { id: v.id } }, headers: onto(v.base) })),
    () => "The shop is as it was then.",
  );
}
