import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useMemo } from "react";
import { toast } from "sonner";
import { api, keys, Refused, unwrap, type Item, changed } from "../api/client";

/** Column of the list: how a thing is written there, sorted, and which field it changes. */
export interface Column {
  id: string;
  title: string;
  width: number;
  number?: boolean;
  /** field that typing into it sets; none when it is worked out */
  field?: string;
  /** name of the value in the thing's list of what is assumed */
  assumed?: string;
}

export const columns: Column[] = [
  { id: "name", title: "thing", width: 212, field: "name" },
  { id: "count", title: "count", width: 52, number: true, field: "count" },
  { id: "w", title: "wide", width: 62, number: true, field: "w", assumed: "w" },
  { id: "h", title: "high", width: 62, number: true, field: "h", assumed: "h" },
  { id: "d", title: "deep", width: 62, number: true, field: "d", assumed: "d" },
  { id: "kg", title: "weight", width: 70, number: true, field: "kg", assumed: "kg" },
  { id: "uses", title: "fetched", width: 116, number: true, field: "uses", assumed: "uses_per_week" },
  { id: "used_at", title: "at", width: 112, field: "used_at" },
  { id: "hold", title: "held", width: 124, field: "hold" },
  { id: "family", title: "family", width: 110, field: "family" },
  { id: "flags", title: "care", width: 170, field: "flags" },
  { id: "place", title: "lives in", width: 70 },
  { id: "kind", title: "kind", width: 110, field: "kind" },
  { id: "status", title: "status", width: 76, field: "status" },
  { id: "keep", title: "keep", width: 52, field: "keep" },
  { id: "whose", title: "whose", width: 80, field: "whose" },
  { id: "locked", title: "locked", width: 60, field: "locked" },
  { id: "notes", title: "notes", width: 220, field: "notes" },
];

/** usual columns, until others are chosen. */
export const usual = columns.slice(0, 12).map((c) => c.id);

/** Grouping is what the list is grouped by. */
export type Grouping = "" | "family" | "used_at" | "place" | "flags" | "kind" | "trip";

export const groupings: { value: Grouping; name: string }[] = [
  { value: "", name: "not grouped" },
  { value: "family", name: "by family" },
  { value: "used_at", name: "by station" },
  { value: "place", name: "by place" },
  { value: "flags", name: "by special care" },
  { value: "kind", name: "by kind" },
  { value: "trip", name: "by trip" },
];

/** Line of the list: a thing, or the head of a group. */
export type Line =
  | { group: string; things: number; pieces: number; kg: number; seconds: number; item?: undefined }
  | { item: Item; nth: number; group?: undefined };

const without: Record<Grouping, string> = {
  "": "",
  family: "no family",
  used_at: "no station",
  place: "no home yet",
  flags: "no special care",
  kind: "no kind",
  trip: "no trip",
};

/** grouped puts things under the heads of their groups; one in several groups is under each. */
export function grouped(items: Item[], by: Grouping, folded: Set<string> = new Set()): Line[] {
  if (by === "") return items.map((item) => ({ item, nth: 0 }));
  const groups = new Map<string, Item[]>();
  for (const i of items) {
    const v = i[by];
    const names = Array.isArray(v) ? v : v ? [v] : [];
    for (const n of names.length > 0 ? names : [without[by]]) groups.set(n, [...(groups.get(n) ?? []), i]);
  }
  const names = [...groups.keys()].sort((a, b) => (a === without[by] ? 1 : b === without[by] ? -1 : a.localeCompare(b)));
  const seen = new Map<string, number>();
  return names.flatMap((group): Line[] => {
    const list = groups.get(group) ?? [];
    const head: Line = {
      group,
      things: list.length,
      pieces: list.reduce((n, i) => n + i.count, 0),
      kg: list.reduce((n, i) => n + i.count * i.kg, 0),
      seconds: list.reduce((n, i) => n + i.seconds, 0),
    };
    if (folded.has(group)) return [head];
    return [
      head,
      ...list.map((item) => {
        const nth = seen.get(item.id) ?? 0;
        seen.set(item.id, nth + 1);
        return { item, nth };
      }),
    ];
  });
}

/** useMatching keeps the things that a search for the text finds, in the order they have; all when nothing is typed; undefined until it is known. */
export function useMatching(items: Item[], text: string, revision: number): Item[] | undefined {
  const nothing = text.trim() === "";
  const q = useDeferredValue(text.trim());
  const found = useQuery({
    queryKey: keys.matching(q, revision),
    queryFn: async () =>
      new Set(unwrap(await api.GET("/api/v1/find", { params: { query: { q, kind: "item", limit: 5000 } } })).map((f) => f.id)),
    enabled: q !== "",
    placeholderData: keepPreviousData,
  }).data;
  return useMemo(() => (nothing ? items : found && items.filter((i) => found.has(i.id))), [items, nothing, found]);
}

/** totals of a choice of things: pieces, weight, and the wall they would take hanging. */
export function totals(items: Item[]) {
  let pieces = 0;
  let kg = 0;
  let wall = 0;
  let litres = 0;
  for (const i of items) {
    pieces += i.count;
    kg += i.count * i.kg;
    if (i.hold.includes("hang")) wall += (i.count * i.w * i.h) / 1e6;
    litres += (i.count * i.w * i.h * i.d) / 1e6;
  }
  return { lines: items.length, pieces, kg, wall, litres };
}

/** useListChange sends a change of the list and looks again afterwards. */
export function useListChange<V, R extends { what: string } | { revision: { what: string } }>(change: (v: V) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.round }),
    onError: (e) => {
      void client.invalidateQueries({ queryKey: keys.round });
      if (!(e instanceof Refused) || e.problem.status !== 422) toast.error(e.message);
    },
  });
}

export function useAdd() {
  return useListChange(async (v: { base: number; lines: string[] }) => unwrap(await api.POST("/api/v1/items", changed(v))));
}

export function useSet() {
  return useListChange(async (v: { base: number; ids: string[]; field: string; text: string }) =>
    unwrap(await api.PATCH("/api/v1/items", changed(v))),
  );
}

export function useRemove() {
  return useListChange(async (v: { base: number; ids: string[] }) => unwrap(await api.POST("/api/v1/items/remove", changed(v))));
}

/** useAdvice is what the core has to say about the list. */
export function useAdvice(revision: number) {
  return useQuery({
    queryKey: keys.advice(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/belongings/advice")),
    placeholderData: keepPreviousData,
  }).data;
}

export function useResolve() {
  return useListChange(async (v: { base: number; ids: string[]; choice: "all" | "spare" | "merge" | "twice" }) =>
    unwrap(await api.POST("/api/v1/items/alike", changed(v))),
  );
}

export function useNewStation() {
  return useListChange(async (v: { base: number; name: string }) => unwrap(await api.POST("/api/v1/stations", changed(v))));
}

export function useOneOut() {
  return useListChange(async (v: { base: number; on: boolean }) => unwrap(await api.PUT("/api/v1/settings/one-out", changed(v))));
}
