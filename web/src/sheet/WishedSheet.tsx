import { useShown } from "../app/shown";
import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type Item, type Round } from "../api/client";
import { useSet } from "../belongings/useList";
import { seconds } from "../units";
import { Measures, Moved } from "./Said";
import { Acts, Part, Row, Sheet } from "./Sheet";
import { Button } from "../ui/Button";

/** WishedSheet tries where a thing that is only wished for would live, before it is bought. */
export function WishedSheet({ round, revision, item }: { round: Round; revision: number; item: Item }) {
  const { select } = useShown();
  const units = round.units;
  const own = useSet();
  const a = useQuery({
    queryKey: keys.admit(item.id, 2, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/items/{id}/admit", { params: { path: { id: item.id }, query: { others: 2 } } })),
  }).data;
  const place = round.places.find((p) => p.id === a?.place);
  return (
    <Sheet onClose={() => select(undefined)} live title={item.name} address="wished" sub={<Measures item={item} units={units} />}>
      <Part title="If it came">
        {!a && <p className="text-quiet">trying…</p>}
        {a?.found && (
          <>
            <Row strong label="it would live in" value={a.place} />
            {place && <p className="text-small text-quiet">{place.name}</p>}
            <Moved moved={a.moved} />
            <Row label={a.moved.length > 0 ? "it and what moves, a week" : "fetched and put back, a week"} value={seconds(a.seconds)} />
          </>
        )}
        {a && !a.found && (
          <>
            <p className="text-red">No home for it: {a.why}.</p>
            {a.change && (
              <p className="mt-1">
                <span className="text-quiet">smallest change:</span> <b>{a.change}</b>
              </p>
            )}
          </>
        )}
      </Part>
      <Acts>
        <Button disabled={own.isPending} onClick={() => own.mutate({ base: revision, ids: [item.id], field: "status", text: "owned" })}>
          It has arrived
        </Button>
      </Acts>
    </Sheet>
  );
}
