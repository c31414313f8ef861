import { useState } from "react";
import type { Wooden } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { fixed, length, type Units } from "../units";
import { useAddWood, useDelivery } from "./useWood";

/** Delivery asks where wood would lie before it is bought. */
export function Delivery({ wood, units, revision }: { wood: Wooden; units: Units; revision: number }) {
  const ask = useDelivery();
  const add = useAddWood();
  const [text, setText] = useState("");
  const d = ask.data;
  return (
    <Part title="Would it fit?">
      <label className="block">
        <span className="block text-small text-quiet">what is to come, a line each</span>
        <textarea
          value={text}
          rows={4}
          onChange={(e) => {
            setText(e.target.value);
            ask.reset();
          }}
          placeholder={units === "metric" ? "12 ash 3600x150x27" : "12 ash 142x6x1"}
          className="w-full border border-line bg-sheet px-2 py-1.5 placeholder:text-quiet"
        />
      </label>
      <p className="m-0 mt-1 flex gap-4">
        <Button kind="main" disabled={text.trim() === "" || ask.isPending} onClick={() => ask.mutate(text)}>
          Where would it lie?
        </Button>
        {d && (
          <Button
            disabled={add.isPending}
            onClick={() => add.mutate({ base: revision, text }, { onSuccess: () => (setText(""), ask.reset()) })}
          >
            It came: take it in
          </Button>
        )}
      </p>
      {ask.error && (
        <p className="m-0 mt-1 text-red" role="alert">
          {ask.error.message}
        </p>
      )}
      {d && (
        <div className="mt-2" data-testid="delivery">
          <ul className="m-0 list-none p-0">
            {d.arrivals.map((a, i) => (
              <li key={i} className="flex items-baseline justify-between gap-3 border-b border-line py-1">
                <span>
                  {a.count > 1 && `${a.count} × `}
                  {a.name}
                  {a.says && <span className={`block text-small ${a.place ? "text-quiet" : "text-red"}`}>{a.says}</span>}
                </span>
                <b className={a.place ? "narrow text-blue" : "text-red"}>{a.place || "nowhere"}</b>
              </li>
            ))}
          </ul>
          {!d.fits && (
            <p className="m-0 mt-1">
              {d.leave.length > 0
                ? `More fits once this has left the racks: ${d.leave.join(", ")}.`
                : "Longer or stronger arms, another rack, or less of it."}
            </p>
          )}
          {d.racks.map((r) => (
            <p key={r.builder} className="m-0">
              {r.title}, {length(r.w, units)} × {length(r.h, units)} × {length(r.d, units)}: room for{" "}
              {r.holds === 1 ? "one of them" : `${r.holds} of them`}.{" "}
              {r.nowhere ? (
                <span className="text-quiet">No spot for it: {r.nowhere}.</span>
              ) : r.wall ? (
                `It would go on wall ${r.wall}.`
              ) : (
                "There is a spot for it on the floor."
              )}
            </p>
          ))}
          {d.racks.some((r) => !r.nowhere) && (
            <p className="m-0 text-small text-quiet">Take the wood in, pick what has no home under Things, and make storage for it.</p>
          )}
          <p className="m-0 mt-1 text-small text-quiet">
            {fixed(d.m3, 3)} m³ in stock then{wood.cap > 0 && `, ${fixed(wood.cap, 2)} wanted at most`}.
          </p>
          {d.says.map((s) => (
            <p key={s} className="m-0 text-red first-letter:uppercase">
              {s}.
            </p>
          ))}
        </div>
      )}
    </Part>
  );
}
