import type { Item } from "../api/client";
import { size, uses, weight, type Units } from "../units";

/** Measures of a thing, with what of them is assumed, and how often and where it is used. */
export function Measures({ item, units, at = [] }: { item: Item; units: Units; at?: string[] }) {
  return (
    <>
      {size([item.w, item.h, item.d], units)} · {item.kg > 0 ? weight(item.kg, units) : "weight not known"}
      {item.assumed.length > 0 && <span className="text-red"> · assumed: {item.assumed.join(", ")}</span>}
      <br />
      {uses(item.uses)}
      {at.length > 0 && `, ${at.join(" and ")}`}
    </>
  );
}

/** Moved lists what goes elsewhere for another thing. */
export function Moved({ moved }: { moved: { item: string; name: string; from: string; to: string }[] }) {
  return moved.map((m) => (
    <p key={m.item} className="text-small">
      {m.name}{" "}
      {m.from === m.to ? (
        <span className="text-quiet">moves within {m.to}</span>
      ) : (
        <>
          <span className="text-quiet">{m.from}</span> → {m.to}
        </>
      )}
    </p>
  ));
}
