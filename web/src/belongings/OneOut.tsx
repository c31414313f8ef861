import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type Item } from "../api/client";
import { useRemove } from "./useList";
import { useDone } from "../app/shop";

/** OneOut asks what leaves now that something has come in; whoever asked for it sees it. */
export function OneOut({ came, items, revision, onDone }: { came: string; items: Item[]; revision: number; onDone: () => void }) {
  const leaving = useQuery({
    queryKey: keys.leaving(came, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/items/{id}/leaving", { params: { path: { id: came } } })),
  }).data;
  const remove = useRemove();
  const done = useDone();
  const name = (id: string) => items.find((i) => i.id === id)?.name ?? id;
  if (!leaving) return null;
  return (
    <div className="flex items-baseline gap-4 border border-line bg-sheet px-3 py-1.5 text-body" role="group" aria-label="One in, one out">
      <span>
        <b>{name(came)}</b> came in. {leaving.length > 0 ? "Does one of these leave?" : "Nothing like it is there to leave."}
      </span>
      {leaving.map((id) => (
        <button
          key={id}
          className="font-semibold text-red hover:underline"
          onClick={() =>
            remove.mutate({ base: revision, ids: [id] }, { onSuccess: (r) => (done(`${name(id)} is off the list.`, r), onDone()) })
          }
        >
          {name(id)}
        </button>
      ))}
      <button className="ml-auto font-semibold text-blue hover:underline" onClick={onDone}>
        Nothing leaves
      </button>
    </div>
  );
}
