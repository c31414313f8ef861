import { useQuery } from "@tanstack/react-query";
import { api, keys, onto, unwrap, type EveningStep } from "../api/client";
import { useChange, type PlanPart } from "../app/shop";
import { today } from "../day";

/** useEvenings is what is left to do for the plan that is carried out, an evening at a time. */
export function useEvenings(minutes: number, revision: number) {
  return useQuery({
    queryKey: keys.evenings(minutes, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/evenings", { params: { query: { minutes } } })),
    placeholderData: (before) => before,
    retry: false,
  });
}

/** useTargets are the plans that are kept. */
export function useTargets(revision: number) {
  return useQuery({ queryKey: keys.targets(revision), queryFn: async () => unwrap(await api.GET("/api/v1/targets", {})) });
}

/** useBestUse is what to do with some minutes, without any plan. */
export function useBestUse(minutes: number, revision: number, wanted: boolean) {
  return useQuery({
    queryKey: keys.bestUse(minutes, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/best-use", { params: { query: { minutes } } })),
    enabled: wanted,
    retry: false,
  });
}

/** useTickStep says that a step was done: things are where it says from then on. */
export function useTickStep() {
  return useChange(
    async (v: { base: number; step: EveningStep; took?: number }) =>
      unwrap(await api.POST("/api/v1/evenings/steps", { headers: onto(v.base), body: { step: v.step, took: v.took } })),
    (r) => `${r.revision.what}.`,
  );
}

/** useLeaveThing takes something out of the plan: it stays where it is. */
export function useLeaveThing() {
  return useChange(
    async (v: { base: number; item: string; why: string }) =>
      unwrap(await api.POST("/api/v1/evenings/left", { headers: onto(v.base), body: { item: v.item, why: v.why } })),
    () => "It stays where it is; the evenings are made anew.",
  );
}

/** useChangeTarget says what a plan is called, why, and whether it is carried out. */
export function useChangeTarget() {
  return useChange(
    async (v: { base: number; id: string; change: { name?: string; note?: string; judge?: string; go?: boolean; again?: boolean } }) =>
      unwrap(await api.PATCH("/api/v1/targets/{id}", { params: { path: { id: v.id } }, headers: onto(v.base), body: v.change })),
    (r) => `${r.what}.`,
  );
}

/** useDropTarget lets a plan go. */
export function useDropTarget() {
  return useChange(
    async (v: { base: number; id: string }) =>
      unwrap(await api.DELETE("/api/v1/targets/{id}", { params: { path: { id: v.id } }, headers: onto(v.base) })),
    (r) => `${r.what}.`,
  );
}

/** useKeepPlan keeps a plan: homes stay as they are until each thing is moved. */
export function useKeepPlan() {
  return useChange(
    async (v: { run: string; base: number; go: boolean; part?: PlanPart }) =>
      unwrap(
        await api.POST("/api/v1/plans/{id}/keep", {
          params: { path: { id: v.run } },
          headers: onto(v.base),
          body: { name: `Plan of ${today()}`, go: v.go, ...v.part },
        }),
      ),
    () => "The plan is kept. Nothing has moved yet: tick each thing off as you move it.",
  );
}

/** useTargetRound is the walls as a plan has them. */
export function useTargetRound(id: string, revision: number) {
  return useQuery({
    queryKey: keys.targetRound(id, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/targets/{id}/round", { params: { path: { id } } })),
    placeholderData: (before) => before,
    enabled: id !== "",
  });
}
