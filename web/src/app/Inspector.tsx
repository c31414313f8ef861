import { lazy, Suspense } from "react";
import type { FreeSpace, Item, Round } from "../api/client";
import { useShown } from "./shown";

const ItemSheet = lazy(() => import("../sheet/ItemSheet").then((m) => ({ default: m.ItemSheet })));
const PlaceSheet = lazy(() => import("../sheet/PlaceSheet").then((m) => ({ default: m.PlaceSheet })));
const WishedSheet = lazy(() => import("../sheet/WishedSheet").then((m) => ({ default: m.WishedSheet })));
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
  const waiting = <div className="w-72.5" />;
  if (item && round === standing)
    return (
      <Suspense fallback={waiting}>
        <ItemSheet round={round} revision={revision} item={item} onPlace={onPlace} />
      </Suspense>
    );
  if (item)
    return (
      <Suspense fallback={<div className="w-72.5" />}>
        <PlannedSheet before={standing} after={round} item={item} onBack={() => select(undefined)} />
      </Suspense>
    );
  if (wished)
    return (
      <Suspense fallback={waiting}>
        <WishedSheet key={wished.id} round={standing} revision={revision} item={wished} />
      </Suspense>
    );
  if (place)
    return (
      <Suspense fallback={waiting}>
        <PlaceSheet round={round} place={place} revision={revision} />
      </Suspense>
    );
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
