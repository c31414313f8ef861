import { at } from "../api/base";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Camera, X } from "lucide-react";
import { Dialog } from "radix-ui";
import { toast } from "sonner";
import { api, keys, Refused, unwrap, type Problem, onto } from "../api/client";
import { reduced } from "./reduce";
import { useDone } from "../app/shop";
import { photo } from "./Thumb";

/** usePhotos attaches photos of things or of storage and takes them away. */
export function usePhotos(of: "items" | "places" = "items") {
  const client = useQueryClient();
  const settled = {
    onSettled: () => client.invalidateQueries({ queryKey: keys.round }),
    onError: (e: Error) => void toast.error(e.message, { duration: 9000 }),
  };
  const add = useMutation({
    mutationFn: async (v: { item: string; base: number; file: Blob }) => {
      const answer = await fetch(at(`/api/v1/${of}/${encodeURIComponent(v.item)}/photos`), {
        method: "POST",
        headers: onto(v.base),
        body: await reduced(v.file),
      });
      if (!answer.ok) throw new Refused((await answer.json().catch(() => ({}))) as Problem);
    },
    ...settled,
  });
  const done = useDone();
  const remove = useMutation({
    mutationFn: async (v: { item: string; base: number; name: string }) =>
      unwrap(
        await api.DELETE(`/api/v1/${of}/{id}/photos/{name}`, { params: { path: { id: v.item, name: v.name } }, headers: onto(v.base) }),
      ),
    ...settled,
    onSuccess: (r) => done("The photo is removed.", r),
  });
  return { add, remove };
}

/** Photos of a thing or of storage: a look at each, another one, one less. */
export function Photos({
  id,
  name,
  photos,
  revision,
  height = 44,
  of,
}: {
  id: string;
  name: string;
  photos: string[];
  revision: number;
  height?: number;
  of?: "items" | "places";
}) {
  const { add, remove } = usePhotos(of);
  return (
    <div className="flex flex-wrap items-center gap-2" data-testid="photos">
      {photos.map((p) => (
        <Dialog.Root key={p}>
          <Dialog.Trigger aria-label={`Photo of ${name}, larger`} className="border border-line bg-paper">
            <img src={photo(p, "small")} alt="" style={{ height, minWidth: height * 0.6 }} className="block w-auto object-cover" />
          </Dialog.Trigger>
          <Dialog.Portal>
            <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
            <Dialog.Content
              aria-describedby={undefined}
              className="fixed top-1/2 left-1/2 z-50 flex max-h-[94vh] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 flex-col gap-2 border border-ink bg-sheet p-3 text-ink"
            >
              <div className="flex items-baseline justify-between gap-6">
                <Dialog.Title className="text-lead font-bold">{name}</Dialog.Title>
                <span className="flex gap-5">
                  <button
                    className="font-semibold text-red hover:underline"
                    onClick={() => remove.mutate({ item: id, base: revision, name: p })}
                  >
                    Take this photo off
                  </button>
                  <Dialog.Close className="font-semibold text-blue hover:underline">Close</Dialog.Close>
                </span>
              </div>
              <img src={photo(p, "large")} alt={name} className="min-h-0 max-w-full flex-1 object-contain" />
            </Dialog.Content>
          </Dialog.Portal>
        </Dialog.Root>
      ))}
      <label className="flex cursor-pointer items-center gap-1.5 font-semibold whitespace-nowrap text-blue hover:underline focus-within:outline-2 focus-within:outline-blue">
        <Camera size={16} aria-hidden />
        {add.isPending ? "Taking it in…" : photos.length > 0 ? "Another photo" : "Add a photo"}
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          aria-label={`Photo of ${name}`}
          className="sr-only"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) add.mutate({ item: id, base: revision, file });
            e.target.value = "";
          }}
        />
      </label>
      {add.isError && (
        <span role="alert" className="flex items-center gap-1 text-small text-red">
          {add.error.message}
          <button aria-label="Seen" onClick={() => add.reset()}>
            <X size={14} />
          </button>
        </span>
      )}
    </div>
  );
}
