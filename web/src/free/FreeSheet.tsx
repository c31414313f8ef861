import { Hint } from "../ui/Hint";
import type { Dead, FreeSpace, Limit, Region, Zone } from "../api/client";
import { leading } from "./useFree";
import { Part, Row, Sheet } from "../sheet/Sheet";
import { length, litres, size, squares, type Units, volume, fixed, percent } from "../units";

/** RegionParts say what limits a free rectangle. */
export function RegionParts({ region: r, units }: { region: Region; units: Units }) {
  const line = (label: string, l: Limit) => (
    <Row label={<span className="text-quiet">{label}</span>} value={<span className="block max-w-45 text-small">{l.says}</span>} />
  );
  return (
    <>
      <Part title="How big">
        <Row strong label="width × height" value={size([r.w, r.h], units)} />
        <Row label="may stick out" value={length(r.depth, units)} />
        <Row label="from the floor" value={`${length(r.z, units)} – ${length(r.z + r.h, units)}`} />
        <Row label="reached" value={r.band} />
        <Row label="area" value={squares(r.area, units)} />
      </Part>
      <Part title="What limits it">
        {line("left", r.left)}
        {line("right", r.right)}
        {line("below", r.below)}
        {line("above", r.above)}
        {line("depth", r.out)}
      </Part>
    </>
  );
}

/** ZoneParts say what limits a free zone under the ceiling. */
export function ZoneParts({ zone: z, units, note }: { zone: Zone; units: Units; note: string }) {
  return (
    <>
      <Part title="Under the ceiling">
        <Row strong label="along × across" value={size([z.w, z.d], units)} />
        <Row label="may hang down" value={length(z.drop, units)} />
        <Row label="not below" value={length(z.low, units)} />
        <Row label="volume" value={litres(z.volume * 1000, units)} />
        <Row label="limited by" value={<span className="block max-w-42.5 text-small">{z.limit.says}</span>} />
        <Row label="joists over it" value={z.along ? `${z.joists.length}, along ${z.along}` : "not known yet"} />
      </Part>
      <p className="mt-2 border-l-2 border-red pl-2 text-small text-red">{note}</p>
    </>
  );
}

/** FreeTotals sum the free space of the shop up. */
export function FreeTotals({ free, units, onDead }: { free: FreeSpace["free"]; units: Units; onDead?: (d: Dead) => void }) {
  const t = free.totals;
  const several = new Set(free.walls.map((w) => w.area)).size > 1;
  const emptiest = [...free.walls].sort((a, b) => b.free - a.free);
  return (
    <>
      <Part title="Free wall, the emptiest first">
        {emptiest.map((w) => (
          <Row
            key={w.area + w.id}
            label={several ? `${w.area} ${w.id}` : `wall ${w.id}`}
            value={
              w.claimed ? `${squares(w.free, units)} of ${squares(w.gross, units)}, ${percent(1 - w.free / w.gross)} taken` : "left alone"
            }
          />
        ))}
        <Row strong label="in all" value={squares(t.free, units)} />
        <Row label="if nothing hung there" value={squares(t.usable, units)} />
      </Part>
      <Part title="Easily overlooked">
        {free.dead.slice(0, 12).map((d) => (
          <Hint key={d.kind + d.name} says={d.note}>
            <button
              disabled={!onDead}
              onClick={() => onDead?.(d)}
              className="flex w-full justify-between gap-2 py-px text-left text-small enabled:hover:text-blue"
            >
              <span className="narrow min-w-0">{d.name}</span>
              <span className="narrow shrink-0 text-quiet">{[d.w, d.h, d.d].map((v) => length(v, units)).join(" × ")}</span>
            </button>
          </Hint>
        ))}
        <p className="narrow text-fine text-quiet">width × height × depth</p>
      </Part>
      <Part title="It is reached">
        {bands
          .filter((b) => (t.bands[b] ?? 0) > 0.005)
          .map((b) => (
            <Row key={b} label={b} value={squares(t.bands[b] ?? 0, units)} />
          ))}
      </Part>
      <Part title="The room">
        <Row label="floor" value={squares(t.floor, units)} />
        <Row label="claimed wall" value={squares(t.wall, units)} />
        <Row label="wall : floor" value={`${fixed(t.ratio, 1)} : 1`} />
        <Row label="volume" value={volume(t.volume, units)} />
        <Row label="free under the ceiling" value={volume(t.overhead, units)} />
      </Part>
    </>
  );
}

const bands = ["easy", "bend", "stretch", "kneel", "step", "ladder", "out of reach"];

/** FreeSheet is the sheet beside the round while the lens shows free space. */
export function FreeSheet({
  free,
  wall,
  region,
  units,
  onRegion,
  onClose,
}: {
  free: FreeSpace["free"];
  wall?: string;
  region?: Region;
  units: Units;
  /** a rectangle is chosen, as area/wall/number */
  onRegion: (id: string) => void;
  onClose: () => void;
}) {
  if (region)
    return (
      <Sheet onClose={onClose} title="Free wall" address={wall} sub="It cannot grow on any side." live>
        <RegionParts region={region} units={units} />
        <button className="mt-3 self-start font-semibold text-blue hover:underline" onClick={onClose}>
          All free space
        </button>
      </Sheet>
    );
  return (
    <Sheet title="Free space" sub="Choose a rectangle to see what limits it.">
      <Part title="Largest free rectangles">
        {free.walls
          .filter((w) => w.claimed)
          .flatMap((w) => leading(w, 3).map((r) => ({ w, ...r })))
          .sort((a, b) => b.region.area - a.region.area)
          .slice(0, 8)
          .map(({ w, region, index }) => (
            <button
              type="button"
              key={`${w.area} ${w.id} ${index}`}
              className="flex w-full justify-between gap-2 py-px text-left text-small hover:text-blue"
              onClick={() => onRegion(`${w.area}/${w.id}/${index}`)}
            >
              <span>
                wall {w.id}, {size([region.w, region.h], units)}
              </span>
              <span className="text-quiet">{squares(region.area, units)}</span>
            </button>
          ))}
      </Part>
      <FreeTotals free={free} units={units} />
    </Sheet>
  );
}
