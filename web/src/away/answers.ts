/** The part of being away that needs no browser: what is kept, and how it is found in. */

/** kept are the answers worth keeping for when the shop's machine is out of reach: what one asks with the thing in the hand. */
export function kept(path: string): boolean {
  return /\/api\/v1\/(round|find|out|needs|kits|gather|closing|look|session|shops|next|places\/[^/]+\/page|items\/[^/]+\/why|photos\/[^/]+)$/.test(
    path,
  );
}

interface Thing {
  id: string;
  name: string;
  place: string;
  count: number;
}

interface Standing {
  items: readonly Thing[];
  places: readonly { id: string; name: string }[];
}

/** plain is a word without accents and capitals. */
const plain = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/** one forgives the plural. */
const one = (word: string) => (word.length > 3 ? word.replace(/(es|s)$/, "") : word);

/** most answers that are given. */
const most = 12;

/**
 * found is what some letters find in the round that was kept: every word begins one of the thing's name or address, those whose name
 * begins with them first. The shop's machine finds far more; this is for when it is away.
 */
export function found(round: Standing, q: string) {
  const words = plain(q)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map(one);
  const place = new Map(round.places.map((p) => [p.id, p]));
  const all = [
    ...round.items.map((i) => ({ kind: "item", id: i.id, name: i.name, at: i.place, count: i.count })),
    ...round.places.map((p) => ({ kind: "place", id: p.id, name: p.name || p.id, at: p.id, count: 1 })),
  ];
  const has = (x: (typeof all)[number]) => plain(`${x.name} ${x.at}`).split(/[^\p{L}\p{N}]+/u);
  return all
    .filter((x) => {
      const parts = has(x);
      return words.length > 0 && words.every((w) => parts.some((p) => p.startsWith(w)));
    })
    .sort((a, b) => Number(plain(b.name).startsWith(words[0] ?? "")) - Number(plain(a.name).startsWith(words[0] ?? "")))
    .slice(0, most)
    .map((x) => ({
      id: x.id,
      kind: x.kind,
      name: x.name,
      address: x.at,
      where: x.kind === "item" ? (place.get(x.at)?.name ?? "") : "",
      photo: "",
      now: "",
      going: "",
      sure: true,
      count: x.count,
      home: x.count,
      out: [],
      with: [],
      set_up: "as last known here",
      open: [],
      box: "",
      caution: "",
    }));
}
