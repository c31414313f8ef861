import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type FreeWall, type Region } from "../api/client";
import type { Units } from "../units";

/** useFree is the free wall and ceiling of the shop, asked for only while it is shown. */
export function useFree(shown: boolean) {
  const { data } = useQuery({ queryKey: keys.free, queryFn: async () => unwrap(await api.GET("/api/v1/free")), enabled: shown });
  return shown ? data : undefined;
}

interface Depth {
  from: number;
  label: string;
  colour: string;
}

const colours = ["var(--free-4)", "var(--free-3)", "var(--free-2)", "var(--free-1)"];

/** steps from the deepest on, each with the least depth it has in round figures of the units. */
function steps(froms: number[], unit: number, sign: string): Depth[] {
  return froms.map((n, i) => ({
    from: n * unit,
    label: i === 0 ? `${n}${sign} and deeper` : `${n} to ${froms[i - 1]}${sign}`,
    colour: colours[i] as string,
  }));
}

const depths: Record<Units, Depth[]> = { metric: steps([600, 300, 150, 50], 1, " mm"), imperial: steps([24, 12, 6, 2], 25.4, "\u2033") };

/** depthsIn are the steps in which free space is shown. */
export function depthsIn(units: Units): Depth[] {
  return depths[units];
}

export function depthColour(depth: number, units: Units): string | undefined {
  return depths[units].find((d) => depth >= d.from)?.colour;
}

/** leading picks the largest regions that hardly overlap, for drawing. */
export function leading(wall: FreeWall, most = 6): { region: Region; index: number }[] {
  const out: { region: Region; index: number }[] = [];
  wall.regions.forEach((region, index) => {
    const covered = out.some(({ region: o }) => {
      const w = Math.min(region.x + region.w, o.x + o.w) - Math.max(region.x, o.x);
      const h = Math.min(region.z + region.h, o.z + o.h) - Math.max(region.z, o.z);
      return w > 0 && h > 0 && w * h > 0.3 * Math.min(region.w * region.h, o.w * o.h);
    });
    if (!covered && out.length < most && region.area >= 0.1) out.push({ region, index });
  });
  return out;
}

/** m2 sums the free wall by the steps of depth. */
export function m2ByDepth(walls: FreeWall[], units: Units): number[] {
  const list = depths[units];
  return list.map((d, i) => {
    const below = i === 0 ? Infinity : (list[i - 1]?.from ?? Infinity);
    let sum = 0;
    for (const w of walls) for (const p of w.patches) if (p.depth >= d.from && p.depth < below) sum += (p.w * p.h) / 1e6;
    return sum;
  });
}
