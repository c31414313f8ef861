import type { OutNow } from "../api/client";

/** pieces is how many are out by one press. */
export const pieces = (o: Pick<OutNow, "n">): number => Math.max(1, o.n ?? 1);

/** all is what is out, as it is put back. */
export const all = (list: readonly OutNow[]) => list.map((o) => ({ item: o.item ?? "", n: pieces(o) }));
