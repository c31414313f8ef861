import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { at } from "../api/base";
import { api, keys, Refused, unwrap, type LookRound, type Problem, type Scanned } from "../api/client";

/** useLook is the look round that goes on, or the last one. */
export const useLook = () => useQuery({ queryKey: keys.look, queryFn: async () => unwrap(await api.GET("/api/v1/look")) }).data;

/** usePlacePage is what belongs in a place or box. */
export const usePlacePage = (id: string) =>
  useQuery({
    queryKey: keys.placePage(id),
    queryFn: async () => unwrap(await api.GET("/api/v1/places/{id}/page", { params: { path: { id } } })),
    enabled: id !== "",
    retry: false,
  });

function useLooking<V>(change: (v: V) => Promise<LookRound>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (look) => client.setQueryData(keys.look, look),
    onError: (e) => {
      toast.error(e.message);
      void client.invalidateQueries({ queryKey: keys.look });
    },
  });
}

/** useBegin begins to look round. */
export const useBegin = () => useLooking(async (scope: string) => unwrap(await api.POST("/api/v1/look", { body: { scope } })));

/** Sight is what was seen at a place. */
export interface Sight {
  place: string;
  items?: string[];
  state: "there" | "missing" | "elsewhere" | "unknown";
  n?: number;
  at?: string;
  what?: string;
}

/** useSee notes what is there, missing, elsewhere or not on the list. */
export const useSee = () => useLooking(async (body: Sight) => unwrap(await api.POST("/api/v1/look/sights", { body })));

/** useEnd ends the look. */
export const useEnd = () => useLooking(async () => unwrap(await api.POST("/api/v1/look/end")));

/** readCode reads the code on a photograph; the shop's machine does it. */
export async function readCode(picture: Blob): Promise<Scanned> {
  const answer = await fetch(at("/api/v1/codes"), {
    method: "POST",
    headers: { "Content-Type": picture.type || "image/jpeg" },
    body: picture,
  });
  if (!answer.ok) throw new Refused((await answer.json().catch(() => ({}))) as Problem);
  return (await answer.json()) as Scanned;
}
