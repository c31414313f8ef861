import { at } from "../api/base";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { listen } from "../app/listen";
import { here } from "../api/base";
import { api, keys, unwrap, type WishCosts, type Run } from "../api/client";
import { sayReason } from "../reason";

/** Style is a way of working that storage is planned for. */
export type Style = "open" | "closed" | "mobile" | "yours";

/** Question is one thing about the shop that might be otherwise. */
export interface Question {
  wall?: string;
  area?: string;
  without?: string;
  family?: string;
  more?: number;
  stature?: string;
}

/** useFit starts a search, follows its stream and holds the plan until it is accepted or discarded. */
export function useFit(revision: number, wanted: boolean) {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const named = params.get("run") ?? undefined;
  const [run, setRun] = useState<Run>();
  // Plans that are done and not thrown away, newest last: what is compared.
  const [kept, setKept] = useState<Run[]>([]);
  const [falling, setFalling] = useState<{ share: number; objective: number }[]>([]);
  const id = run?.id;
  const done = run?.state === "done";

  // The address says which plan is open, so that it outlives a reload and Back comes out of it.
  const show = useCallback(
    (next: Run | undefined) => {
      setRun(next);
      // The screen may have been left since this was drawn: the address as it is, not as it was.
      const now = new URLSearchParams(window.location.search);
      if (next) now.set("run", next.id);
      else now.delete("run");
      void navigate({ pathname: here(), search: now.toString() });
    },
    [navigate],
  );
  const last = useRef<string | undefined>(undefined);
  useEffect(() => {
    if (last.current === named) return;
    last.current = named;
    if (named === id) return;
    if (!named) return setRun(undefined);
    api
      .GET("/api/v1/plans/{id}", { params: { path: { id: named } } })
      .then(unwrap)
      .then(
        (r) => last.current === named && setRun(r),
        () => last.current === named && show(undefined), // the server has forgotten it
      );
  }, [named, id, show]);

  const begin = useCallback(
    (start: () => Promise<Run>) => {
      setFalling([]);
      start().then(show, sayReason);
    },
    [show],
  );
  const start = useCallback(
    (seconds = 20, wishes: WishCosts = {}, items?: string[], mode?: string, moves?: number) =>
      begin(async () => unwrap(await api.POST("/api/v1/plans", { body: { seconds, wishes, items, mode: mode || undefined, moves } }))),
    [begin],
  );
  const propose = useCallback(
    (style: Style, bare: boolean, kept: string[] = [], seconds = 30, budget: Record<string, number> = {}) =>
      begin(async () => unwrap(await api.POST("/api/v1/plans/storage", { body: { style, bare, kept, seconds, budget } }))),
    [begin],
  );
  const wonder = useCallback(
    (question: Question) => begin(async () => unwrap(await api.POST("/api/v1/plans/what-if", { body: question }))),
    [begin],
  );

  useEffect(() => {
    if (!id || done) return;
    const stop = listen(at(`/api/v1/plans/${id}/stream`), {
      run: (data) => {
        const next = JSON.parse(data) as Run;
        setRun(next);
        if (next.objective > 0) setFalling((f) => [...f, { share: next.share, objective: next.objective }]);
        if (next.state === "done") {
          stop();
          if (!next.failed) setKept((k) => [...k.filter((r) => r.id !== next.id && r.base === next.base), next].slice(-6));
        }
      },
    });
    return stop;
  }, [id, done]);

  // What was looked for before the page was opened: plans are kept, and a search may still go on.
  const before = useQuery({
    queryKey: keys.fits,
    queryFn: async () => unwrap(await api.GET("/api/v1/plans")),
    enabled: wanted,
    staleTime: Infinity,
  }).data;
  const taken = useRef(false);
  useEffect(() => {
    if (!before || taken.current) return;
    taken.current = true;
    setKept((k) => [...before.filter((r) => r.state === "done" && !r.failed && !k.some((x) => x.id === r.id)), ...k].slice(-6));
    const going = before.findLast((r) => r.state !== "done");
    if (going) setRun((now) => now ?? going);
  }, [before]);

  const proposal = useQuery(proposalOf(id ?? "", id !== undefined && done));
  const contradictions = useQuery({
    queryKey: keys.contradictions(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/plans/contradictions")),
    enabled: id === undefined && wanted,
  });

  const stop = useCallback(() => {
    if (id)
      api
        .POST("/api/v1/plans/{id}/stop", { params: { path: { id } } })
        .then(unwrap)
        .then(setRun, sayReason);
  }, [id]);
  const forget = useCallback(() => {
    show(undefined);
    setKept([]);
  }, [show]);
  const aside = useCallback(() => show(undefined), [show]);
  const discard = useCallback(() => {
    // A plan the server no longer has is gone as well.
    if (id) api.DELETE("/api/v1/plans/{id}", { params: { path: { id } } }).catch(sayReason);
    setKept((k) => k.filter((r) => r.id !== id));
    show(undefined);
  }, [id, show]);

  return {
    run,
    kept: kept.filter((r) => r.base === revision),
    open: show,
    falling,
    proposal: run && done ? proposal.data : undefined,
    /** why the plan cannot be shown */
    lost: run && done ? proposal.error?.message : undefined,
    contradictions: contradictions.data ?? [],
    start,
    propose,
    wonder,
    stop,
    aside,
    discard,
    forget,
  };
}

/** useChoices are what a search and a proposal can be told, as the core has it. */
export const useChoices = () =>
  useQuery({ queryKey: keys.choices, staleTime: Infinity, queryFn: async () => unwrap(await api.GET("/api/v1/plans/choices")) }).data;

/** proposalOf is a plan beside the shop as it stands. */
export const proposalOf = (id: string, wanted: boolean) => ({
  queryKey: keys.proposal(id),
  enabled: wanted,
  staleTime: Infinity,
  queryFn: async () => unwrap(await api.GET("/api/v1/plans/{id}/proposal", { params: { path: { id } } })),
});

export type Fit = ReturnType<typeof useFit>;
