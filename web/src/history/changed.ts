import type { Revision, Round } from "../api/client";

/** Named is what a revision changed, by the name people know it by, and how the round shows it. */
export interface Named {
  id: string;
  name: string;
  on?: string;
}

/** named is everything in the shop that a revision may have changed. */
export function named(round: Round): Map<string, Named> {
  const out = new Map<string, Named>();
  const rooms = new Set(round.elevations.map((e) => e.area));
  for (const id of rooms) out.set(id, { id, name: rooms.size > 1 ? `room ${id}` : "the room" });
  for (const t of round.things) out.set(t.id, { id: t.id, name: t.name });
  for (const p of round.places) out.set(p.id, { id: p.id, name: p.name || p.id, on: `place:${p.id}` });
  for (const i of [...round.items, ...round.wished]) out.set(i.id, { id: i.id, name: i.name, on: `item:${i.id}` });
  return out;
}

/** changed are the things and places a revision touched, each once; a home counts as its thing. */
export function changed(r: Revision, names: Map<string, Named>): Named[] {
  const out = new Map<string, Named>();
  for (const c of r.changed) {
    if (c.part === "settings") continue;
    const id = c.part === "homes" ? c.id.replace(/ \d+$/, "") : c.id;
    out.set(id, names.get(id) ?? { id, name: id });
  }
  return [...out.values()];
}

/** dayOf is the day of a revision where it is looked at, as 2026-11-28. */
export function dayOf(r: Pick<Revision, "at">): string {
  const d = new Date(r.at);
  return `${d.getFullYear()}-${String(d.getMonth() + 1).padStart(2, "0")}-${String(d.getDate()).padStart(2, "0")}`;
}

/** timeOf is the time of day of a revision, as people there write it. */
export function timeOf(r: Pick<Revision, "at">): string {
  return new Date(r.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" });
}
