import { useState } from "react";
import type { Wooden } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { distance, percent, type Units } from "../units";
import { sizeOf } from "./words";
import { useFindWood } from "./useWood";

/** FindPiece looks for the pieces that serve a part, least waste first. */
export function FindPiece({ wood, units }: { wood: Wooden; units: Units }) {
  const find = useFindWood();
  const [size, setSize] = useState("");
  const [of, setOf] = useState("");
  const [count, setCount] = useState("1");
  const [across, setAcross] = useState(false);
  const [wrong, setWrong] = useState("");
  const go = () => {
    const n = Math.round(Number(count));
    if (size.trim() === "") return setWrong("Say the size of the part.");
    if (!(n >= 1)) return setWrong("How many? 1 or more.");
    setWrong("");
    find.mutate({ size, of: of || undefined, count: n, across, kerf: 3.2 });
  };
  return (
    <Part title="Which piece gives this part?">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          go();
        }}
      >
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <Labelled label="part" width="w-64">
            <input
              value={size}
              onChange={(e) => setSize(e.target.value)}
              placeholder="length × width × thickness"
              className="w-full border-b border-line bg-transparent placeholder:text-quiet"
            />
          </Labelled>
          <Labelled label="how many" width="w-28">
            <input
              value={count}
              onChange={(e) => setCount(e.target.value)}
              className="w-full border-b border-line bg-transparent text-right"
            />
          </Labelled>
          <Pick
            label="Which wood"
            value={of}
            choices={[{ value: "", name: "any wood" }, ...wood.totals.filter((t) => t.of).map((t) => ({ value: t.of, name: t.called }))]}
            onPick={setOf}
          />
          <Tickbox on={across} onChange={setAcross}>
            grain across its length
          </Tickbox>
          <Button kind="main" type="submit" disabled={find.isPending}>
            Look
          </Button>
        </div>
      </form>
      {(wrong || find.error) && (
        <p className="m-0 mt-1 text-red" role="alert">
          {wrong || find.error?.message}
        </p>
      )}
      {find.data && (
        <ol className="m-0 mt-2 list-none p-0" data-testid="serves">
          {find.data.length === 0 && (
            <li className="text-quiet">No piece in stock gives it. Under Delivery: what would fit, before you buy.</li>
          )}
          {find.data.slice(0, 12).map((p) => (
            <li key={p.item} className="flex items-baseline gap-3 border-b border-line py-1 thumb:py-2">
              <span className="min-w-0 flex-1">
                <b className="inline-block first-letter:uppercase">
                  {p.called} {sizeOf(p, units)}
                </b>
                <span className="block text-small text-quiet">
                  gives {p.gives === 1 ? "one" : p.gives}, {percent(p.waste)} of what is cut off is waste
                  {p.plane > 0 && `; ${distance(p.plane, units)} to plane off`}
                  {p.says && `; ${p.says}`}
                </span>
              </span>
              <span className="narrow shrink-0 font-bold text-blue">{p.place || "no place"}</span>
            </li>
          ))}
        </ol>
      )}
      {!find.data && (
        <p className="mt-2 mb-0 text-small text-quiet">
          Finished size, as {units === "metric" ? "640x90x20" : "25x3 1/2x3/4"}; the saw takes its kerf.
        </p>
      )}
    </Part>
  );
}
