import { lazy, Suspense } from "react";
import type { FreeSpace, Item, Round } from "../api/client";
import { ItemSheet } from "../sheet/ItemSheet";
import { PlaceSheet } from "../sheet/PlaceSheet";
import { WishedSheet } from "../sheet/WishedSheet";
import { useShown } from "./shown";

const FreeSheet = lazy(() => import("../free/FreeSheet").then((m) => ({ default: m.FreeSheet })));
const PlannedSheet = lazy(() => import("../fit/PlannedSheet"));

/** Inspector says all about what is selected, beside whatever one is working on. Round is what is drawn, standing the shop as it stands. */
export function Inspector({
  round,
  standing,
  revision,
  free,
  onPlace,
}: {
  round: Round;
  standing: Round;
  revision: number;
  free: FreeSpace["free"] | undefined;
  onPlace: (i: Item) => void;
}) {
  const { selected, select, lens } = useShown();
  const [area, id, number] = selected?.kind === "free" ? selected.id.split("/") : [];
  const wall = free?.walls.find((w) => w.area === area && w.id === id);
  const item = selected?.kind === "item" ? round.items.find((i) => i.id === selected.id) : undefined;
  const wished = selected?.kind === "item" ? standing.wished.find((i) => i.id === selected.id) : undefined;
  const place = selected?.kind === "place" ? round.places.find((p) => p.id === selected.id) : undefined;
  if (item && round === standing) return <ItemSheet round={round} revision={revision} item={item} onPlace={onPlace} />;
  if (item)
    return (
      <Suspense fallback={<div className="w-72.5" />}>
        <PlannedSheet before={standing} after={round} item={item} onBack={() => select(undefined)} />
      </Suspense>
    );
  if (wished) return <WishedSheet key={wished.id} round={standing} revision={revision} item={wished} />;
  if (place) return <PlaceSheet round={round} place={place} revision={revision} />;
  if (lens === "free" && free)
    return (
      <Suspense fallback={<div className="w-72.5" />}>
        <FreeSheet
          free={free}
          wall={wall?.id}
          region={wall?.regions[Number(number)]}
          units={standing.units}
          onRegion={(id) => select({ kind: "free", id }, true)}
          onClose={() => select(undefined)}
        />
      </Suspense>
    );
  return null;
}
