import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type FreeWall, type Region } from "../api/client";

/** useFree is the free wall and ceiling of the shop, asked for only while it is shown. */
export function useFree(shown: boolean) {
  const { data } = useQuery({ queryKey: keys.free, queryFn: async () => unwrap(await api.GET("/api/v1/free")), enabled: shown });
  return shown ? data : undefined;
}

/** depths are the steps in which free space is shown, with the least depth of each. */
export const depths = [
  { from: 600, label: "600 and more", colour: "var(--free-4)" },
  { from: 300, label: "300 to 600 deep", colour: "var(--free-3)" },
  { from: 150, label: "150 to 300", colour: "var(--free-2)" },
  { from: 50, label: "50 to 150", colour: "var(--free-1)" },
];

export function depthColour(depth: number): string | undefined {
  return depths.find((d) => depth >= d.from)?.colour;
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
export function m2ByDepth(walls: FreeWall[]): number[] {
  return depths.map((d, i) => {
    const below = i === 0 ? Infinity : (depths[i - 1]?.from ?? Infinity);
    let sum = 0;
    for (const w of walls) for (const p of w.patches) if (p.depth >= d.from && p.depth < below) sum += (p.w * p.h) / 1e6;
    return sum;
  });
}
