import type { Item } from "../api/client";
import { Silhouette } from "../stage/Silhouette";

/** Portrait is a thing in a square of so many pixels, an outline when it is not here; its narrow side is never less than what can be seen. */
export function Portrait({ item, size, least }: { item: Item; size: number; least: number }) {
  const k = size / Math.max(item.w, item.h, 1);
  const [w, h] = [Math.max(least, item.w * k), Math.max(least, item.h * k)];
  return (
    <svg width={w} height={h} aria-hidden>
      <Silhouette kind={item.glyph} x={0} y={0} w={w} h={h} outline={item.out || item.status === "wished"} own={item} />
    </svg>
  );
}
