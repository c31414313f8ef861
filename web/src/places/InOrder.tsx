import { useQuery } from "@tanstack/react-query";
import { api, keys, onto, unwrap, type Place } from "../api/client";
import { useChange } from "../app/shop";
import { Part } from "../sheet/Sheet";
import { Choices } from "../ui/Choices";
import { Pick } from "../ui/Pick";

type By = NonNullable<Place["order"]>;

/** InOrder is what lives in a place in an order one can see, with the fewest things moved for it. */
export function InOrder({ place, revision }: { place: Place; revision: number }) {
  const by: By = place.order || "use";
  const row = useQuery({
    queryKey: keys.inOrder(place.id, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/places/{id}/order", { params: { path: { id: place.id } } })),
    placeholderData: (before) => before,
  }).data;
  const set = useChange(
    async (v: { base: number; by?: By; dull?: "" | "left" | "right" }) =>
      unwrap(
        await api.PUT("/api/v1/places/{id}/order", {
          params: { path: { id: place.id } },
          headers: onto(v.base),
          body: { by: v.by, dull: v.dull },
        }),
      ),
    (r) => `${r.what}.`,
  );
  if (!row || row.things.length < 3) return null;
  const moving = row.things.filter((t) => t.moves);
  return (
    <Part title="In order of">
      <Choices
        as="words"
        label="In order of"
        value={by}
        choices={[
          { value: "use", name: "use" },
          { value: "name", name: "name" },
          { value: "size", name: "size" },
          { value: "kind", name: "kind" },
          { value: "job", name: "job" },
          { value: "machine", name: "machine" },
          { value: "weight", name: "weight, heavy below" },
        ]}
        onPick={(to) => set.mutate({ base: revision, by: to })}
      />
      {place.order && (
        <p className="m-0 mt-1 text-small text-quiet">
          {moving.length === 0
            ? "It is in that order as it stands."
            : `${moving.length} of ${row.things.length} would move: ${moving
                .slice(0, 6)
                .map((t) => (t.after === "" ? `${t.name} first` : `${t.name} after ${t.after}`))
                .join("; ")}${moving.length > 6 ? " …" : ""}.`}
        </p>
      )}
      <div className="flex items-baseline gap-1">
        dull blades hang
        <Pick
          label="Where dull blades hang"
          value={place.dull || ""}
          choices={[
            { value: "", name: "anywhere" },
            { value: "left", name: "on the left" },
            { value: "right", name: "on the right" },
          ]}
          onPick={(dull) => set.mutate({ base: revision, dull: dull as "" | "left" | "right" })}
        />
      </div>
    </Part>
  );
}
