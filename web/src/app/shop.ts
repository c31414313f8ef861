import { at } from "../api/base";
import { useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useSyncExternalStore } from "react";
import { toast } from "sonner";
import { listenTogether } from "./listen";
import { merged } from "./merge";
import { api, keys, Refused, unwrap, type Spot, type Surveyed, exactly, onto, type Seen } from "../api/client";
import { reason } from "../reason";

/** useSeen is the round of the shop as it stands. */
export function useSeen() {
  const client = useQueryClient();
  return useQuery({
    queryKey: keys.round,
    queryFn: async (): Promise<Seen> => {
      const last = client.getQueryData<Seen>(keys.round);
      if (!last) return unwrap(await api.GET("/api/v1/round"));
      // Only what is otherwise is sent again.
      const { revision, start, change, round } = unwrap(
        await api.GET("/api/v1/round/since/{revision}", { params: { path: { revision: last.revision }, query: { start: last.start } } }),
      );
      const now = change ? merged(last.round, change) : round;
      return now ? { revision, start, round: now } : last;
    },
  });
}

/** happened looks again at what depends on events. */
export function happened(client: QueryClient) {
  for (const queryKey of [
    keys.uses,
    keys.out,
    keys.guards,
    ["learned"],
    ["swaps"],
    ["closing"],
    ["find"],
    keys.look,
    ["place-page"],
    ["log"],
    ["habits"],
  ])
    void client.invalidateQueries({ queryKey });
}

/** useChanges looks again whenever the shop has changed, here or elsewhere. */
export function useChanges() {
  const client = useQueryClient();
  useEffect(() => {
    let later: ReturnType<typeof setTimeout> | undefined;
    const revision = (data: string) => {
      // What this window changed in the survey it has drawn already.
      const { id } = JSON.parse(data) as { id: number };
      const old = (q: { state: { data?: unknown } }) => ((q.state.data as Surveyed | undefined)?.revision ?? 0) < id;
      void client.invalidateQueries({ queryKey: keys.surveys, predicate: old });
      // The round is not in sight while numbers come in one after the other.
      clearTimeout(later);
      later = setTimeout(
        () => {
          void client.invalidateQueries({ queryKey: keys.round });
          void client.invalidateQueries({ queryKey: keys.free });
        },
        window.location.pathname === "/survey" ? 250 : 0,
      );
    };
    const here = (data: string) => {
      const now = JSON.parse(data) as { revision: number; start: string };
      const last = client.getQueryData<Seen>(keys.round);
      if (!last || (now.revision === last.revision && now.start === last.start)) return;
      for (const queryKey of [keys.round, keys.free, keys.surveys]) void client.invalidateQueries({ queryKey });
      happened(client);
    };
    return listenTogether(at("/api/v1/changes/stream"), { here, revision, happened: () => happened(client) }, connection.set);
  }, [client]);
}

/** connection to the server, as the stream of changes knows it. */
const connection = (() => {
  let on = true;
  const heard = new Set<() => void>();
  return {
    get: () => on,
    set: (now: boolean) => {
      on = now;
      for (const tell of heard) tell();
    },
    watch: (tell: () => void) => {
      heard.add(tell);
      return () => heard.delete(tell);
    },
  };
})();

/** useConnected is whether the server answers. */
export function useConnected(): boolean {
  return useSyncExternalStore(connection.watch, connection.get);
}

/** Made is what a change answers with: its revision, by itself or beside what else there is to say. */
type Made = { id: number; what: string } | { revision: { id: number; what: string } };

const revisionOf = (r: Made) => ("revision" in r ? r.revision : r);

/** useDone says what was done, with a button that undoes just that. */
export function useDone() {
  const client = useQueryClient();
  return useCallback(
    (text: string, made: Made) => {
      const undo = async () => {
        try {
          const r = unwrap(await api.POST("/api/v1/undo", { headers: exactly(revisionOf(made).id) }));
          toast(`Undone: ${r.what}`);
        } catch (e) {
          const stale = e instanceof Refused && e.problem.status === 412;
          toast.error(stale ? "Something else was changed since. Undo it from the history." : reason(e));
        }
        void client.invalidateQueries({ queryKey: keys.round });
      };
      toast(text, { action: { label: "Undo", onClick: () => void undo() } });
    },
    [client],
  );
}

/** useChange wraps a change of the shop: it looks again afterwards, offers to undo it, and says what was refused. */
export function useChange<V, R extends Made>(change: (v: V) => Promise<R>, said: (r: R) => string) {
  const client = useQueryClient();
  const done = useDone();
  return useMutation({
    mutationFn: change,
    onSuccess: (r) => {
      void client.invalidateQueries({ queryKey: keys.round });
      done(said(r), r);
    },
    onError: (e) => {
      void client.invalidateQueries({ queryKey: keys.round });
      toast.error(e.message);
    },
  });
}

/** useStep undoes or redoes; what it says needs no button to take it back. */
function useStep(step: (base: number) => Promise<{ what: string }>, said: (what: string) => string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (base: number) => step(newest(client, base)),
    onSuccess: (r) => {
      void client.invalidateQueries({ queryKey: keys.round });
      toast(said(r.what));
    },
    onError: (e) => {
      void client.invalidateQueries({ queryKey: keys.round });
      toast.error(e.message);
    },
  });
}

export function useGiveHome() {
  return useChange(
    async (v: { item: string; base: number; spot: Spot }) =>
      unwrap(await api.PUT("/api/v1/items/{id}/home", { params: { path: { id: v.item } }, headers: onto(v.base), body: { ...v.spot } })),
    (r) => `${r.what}.`,
  );
}

/** useGiveBest gives a thing its best free spot: of all, or of one place when that is the best there is. */
export function useGiveBest() {
  return useChange(
    async (v: { item: string; name: string; base: number; place?: string }) => {
      const best = unwrap(await api.GET("/api/v1/items/{id}/best", { params: { path: { id: v.item } } }));
      if (!best.allowed && !v.place) throw new Error(`No free spot for ${v.name}: ${best.why}.`);
      const spot: Spot = best.allowed && (!v.place || best.spot.place === v.place) ? best.spot : { place: v.place ?? "" };
      return unwrap(await api.PUT("/api/v1/items/{id}/home", { params: { path: { id: v.item } }, headers: onto(v.base), body: spot }));
    },
    (r) => `${r.what}.`,
  );
}

export function useTakeHome() {
  return useChange(
    async (v: { item: string; base: number }) =>
      unwrap(await api.DELETE("/api/v1/items/{id}/home", { params: { path: { id: v.item } }, headers: onto(v.base) })),
    (r) => `${r.what}.`,
  );
}

export function useLockHome() {
  return useChange(
    async (v: { item: string; base: number; locked: boolean }) =>
      unwrap(
        await api.PUT("/api/v1/items/{id}/lock", { params: { path: { id: v.item } }, headers: onto(v.base), body: { locked: v.locked } }),
      ),
    (r) => `${r.what}.`,
  );
}

/** newest is the newest revision this window knows of: the survey may be ahead of the round. */
function newest(client: QueryClient, base: number): number {
  return Math.max(base, ...client.getQueriesData<Surveyed>({ queryKey: keys.surveys }).map(([, s]) => s?.revision ?? 0));
}

export function useUndo() {
  return useStep(
    async (base) => unwrap(await api.POST("/api/v1/undo", { headers: exactly(base) })),
    (what) => `Undone: ${what}`,
  );
}

export function useRedo() {
  return useStep(
    async (base) => unwrap(await api.POST("/api/v1/redo", { headers: exactly(base) })),
    (what) => `Done again: ${what}`,
  );
}

/** Part of a plan that is taken over; all of it when nothing is said. */
export interface PlanPart {
  walls?: string[];
  places?: string[];
  items?: string[];
}

export function useAccept() {
  return useChange(
    async (v: { run: string; base: number; part?: PlanPart }) =>
      unwrap(await api.POST("/api/v1/plans/{id}/accept", { params: { path: { id: v.run } }, headers: onto(v.base), body: { ...v.part } })),
    (r) =>
      r.along.length > 0
        ? `Done; ${r.along.length} in the way moved along: ${r.along.slice(0, 4).join(", ")}${r.along.length > 4 ? " …" : ""}.`
        : "Done.",
  );
}

export function useMakeRoom() {
  return useChange(
    async (v: { item: string; base: number; others: number }) =>
      unwrap(
        await api.POST("/api/v1/items/{id}/admit", { params: { path: { id: v.item } }, headers: onto(v.base), body: { others: v.others } }),
      ),
    () => "It has a home now, and so has what was in its way.",
  );
}
