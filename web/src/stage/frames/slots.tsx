import { rule, type Framed } from "./frame";
import { Rail } from "./rail";

/** Slots are a rail with partitions between them. */
export function Slots(f: Framed) {
  return Rail(
    f,
    f.p.lines.slice(1).map((l, i) => rule(f, l, 0.8, i)),
  );
}
