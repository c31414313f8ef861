import type { Wooden } from "../api/client";
import { inMonths } from "../day";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Do, Menu } from "../ui/Menu";
import { distance, fixed, litres, type Units } from "../units";
import { useSetWood } from "./useWood";

/** Letting is what may go by the shop's own rules: a list, with one press for each. */
export function Letting({ wood, units, revision }: { wood: Wooden; units: Units; revision: number }) {
  const set = useSetWood("Decided.");
  const all = wood.letting.reduce((n, x) => n + x.m3, 0);
  const going = wood.pieces.filter((p) => p.goes_to !== "");
  return (
    <Part title={wood.letting.length === 0 ? "Nothing has to go" : `${wood.letting.length} may go, ${litres(1000 * all, units)}`}>
      <p className="m-0 text-small text-quiet">
        By your rules: shorter than {distance(wood.useful, units)}, or untouched for {fixed(wood.months, 0)} months. Some keep every offcut
        for a year, others nothing under the length of a forearm; change the rules under Facts.
      </p>
      <ul className="m-0 mt-1 list-none p-0" data-testid="letting">
        {wood.letting.slice(0, 40).map((x) => (
          <li key={x.item} className="flex flex-wrap items-baseline gap-x-4 border-b border-line py-1 thumb:py-2">
            <span className="min-w-48 flex-1">
              {x.name}
              <span className="block text-small text-quiet">{x.why}</span>
            </span>
            <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: x.item, body: { review: inMonths(12) } })}>
              Keep a year
            </Button>
            <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: x.item, body: { gone: true } })}>
              Stove
            </Button>
            <Menu name="Otherwise">
              {["given away", "sold", "the tip"].map((w) => (
                <Do key={w} onSelect={() => set.mutate({ base: revision, id: x.item, body: { goes_to: w } })}>
                  {w}
                </Do>
              ))}
            </Menu>
          </li>
        ))}
      </ul>
      {going.length > 0 && (
        <>
          <h4 className="mt-3 mb-0 text-small font-semibold text-quiet">To be collected</h4>
          <ul className="m-0 list-none p-0">
            {going.map((p) => (
              <li key={p.item} className="flex items-baseline justify-between gap-3 border-b border-line py-1">
                <span>
                  {p.name}{" "}
                  <span className="text-small text-quiet">
                    {p.goes_to}
                    {p.review && ` on ${p.review}`}
                  </span>
                </span>
                <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, id: p.item, body: { gone: true } })}>
                  It is gone
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Part>
  );
}
