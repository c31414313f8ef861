import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { at } from "../api/base";
import { api, unwrap } from "../api/client";
import { reason } from "../reason";
import type { components } from "../api/schema.gen";

type S = components["schemas"];
export type KeptDays = S["KeptDays"];
export type Reviewed = S["Reviewed"];
export type Moved = S["NewroomMoved"];
export type Played = S["MonthPlayed"];

export const useDays = (revision: number) =>
  useQuery({
    queryKey: ["snapshots", revision],
    queryFn: async () => unwrap(await api.GET("/api/v1/snapshots")),
    placeholderData: keepPreviousData,
  });

/** useTargets are the plans that are kept. */
export const useTargets = (revision: number) =>
  useQuery({ queryKey: ["kept plans", revision], queryFn: async () => unwrap(await api.GET("/api/v1/targets")) });

export const useReviewed = (from: number, to: number, revision: number) =>
  useQuery({
    queryKey: ["review", from, to, revision],
    queryFn: async () => unwrap(await api.GET("/api/v1/review", { params: { query: { from, to } } })),
    enabled: from > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });

export const useMonth = (asked: boolean, seed: number, revision: number, target = "") =>
  useQuery({
    queryKey: ["month", seed, revision, target],
    queryFn: async () => unwrap(await api.GET("/api/v1/month", { params: { query: { seed, target } } })),
    enabled: asked,
    placeholderData: keepPreviousData,
  });

function useDoing<V>(act: (v: V) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["snapshots"] });
      void client.invalidateQueries({ queryKey: ["review"] });
    },
    onError: (e) => toast.error(reason(e)),
  });
}

export const useKeep = () => useDoing(async (name: string) => unwrap(await api.POST("/api/v1/snapshots", { body: name ? { name } : {} })));

export const useForget = () =>
  useDoing(async (id: number) => {
    const r = await api.DELETE("/api/v1/snapshots/{id}", { params: { path: { id } } });
    if (r.error) throw new Error(r.error.detail ?? "It could not be let go of.");
  });

/** usePhotoOf keeps a photo of a wall with a day. */
export const usePhotoOf = () =>
  useDoing(async (v: { id: number; wall: string; file: File }) => {
    const r = await fetch(at(`/api/v1/snapshots/${v.id}/photos/${encodeURIComponent(v.wall.replace("/", "."))}`), {
      method: "POST",
      body: v.file,
      headers: { "Content-Type": "application/octet-stream" },
    });
    if (!r.ok) throw new Error(((await r.json()) as { detail?: string }).detail ?? "The photo was not taken.");
  });
