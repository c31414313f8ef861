import { useState } from "react";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { length, type Units } from "../units";
import { useApart, useTakeApart, type Chosen, type Unit } from "./useBuild";

/** Apart is what a piece of storage gives to stock when it is taken apart, and that it was. */
export function Apart({ unit, chosen, units, revision }: { unit: Unit; chosen: Chosen; units: Units; revision: number }) {
  const [open, setOpen] = useState(false);
  const apart = useApart(unit.id, chosen, revision, open);
  const take = useTakeApart();
  const y = apart.data;
  return (
    <Part title="Take it apart">
      {!open && <Button onClick={() => setOpen(true)}>What would it give?</Button>}
      {apart.error && (
        <p className="m-0 text-red" role="alert">
          {apart.error.message}
        </p>
      )}
      {open && y && (
        <div data-testid="apart">
          <ul className="m-0 list-none p-0">
            {y.pieces.map((p, i) => (
              <li key={i} className="border-b border-line py-0.5">
                {p.count} × {p.called} {length(p.l, units)} × {length(p.w, units)} × {length(p.t, units)}
              </li>
            ))}
          </ul>
          {y.pieces.length === 0 && <p className="m-0">Nothing of it is as large as you keep wood.</p>}
          {y.small > 0 && <p className="m-0 text-quiet">And {y.small} that are smaller than you keep.</p>}
          {y.fittings.length > 0 && <p className="m-0 text-quiet">Used again: {y.fittings.join(", ")}.</p>}
          {y.homeless.length > 0 && (
            <p className="m-0 text-red">
              {y.homeless.length === 1 ? "One thing lives" : `${y.homeless.length} things live`} there and would have no home:{" "}
              {y.homeless.slice(0, 6).join(", ")}
              {y.homeless.length > 6 && " …"}.
            </p>
          )}
          {y.says.map((s) => (
            <p key={s} className="m-0 text-small text-quiet first-letter:uppercase">
              {s}.
            </p>
          ))}
          <p className="mt-1 mb-0">
            <Button disabled={take.isPending} onClick={() => take.mutate({ base: revision, id: unit.id, chosen })}>
              It is taken apart: pieces into stock
            </Button>
          </p>
        </div>
      )}
    </Part>
  );
}
