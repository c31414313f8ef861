import { useState } from "react";
import type { Round } from "../api/client";
import { Spot } from "../places/Places";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Tickbox } from "../ui/Tickbox";
import { length } from "../units";
import { useFound, useKeepFound, type FoundAsked } from "./useBuild";

const titles = { "as-is": "As it is", "shelf-more": "With a shelf more", "cut-down": "Cut down" } as const;

/** Found judges furniture that was found: what it holds, and where it would go. */
export function Found({ round, revision }: { round: Round; revision: number }) {
  const units = round.units;
  const [said, setSaid] = useState({ name: "", w: "", h: "", d: "", in_w: "", in_d: "", openings: "", carries: "", lower: "" });
  const [drawers, setDrawers] = useState(false);
  const [asked, setAsked] = useState<FoundAsked>();
  const judge = useFound();
  const keep = useKeepFound();
  const field = (key: keyof typeof said, label: string, width: string, hint = "") => (
    <Labelled label={label} width={width}>
      <input
        value={said[key]}
        placeholder={hint}
        onChange={(e) => setSaid({ ...said, [key]: e.target.value })}
        className="w-full min-w-0 border-b border-line bg-transparent placeholder:text-quiet"
      />
    </Labelled>
  );
  const go = () => {
    const body: FoundAsked = {
      name: said.name.trim() || "Found furniture",
      w: said.w,
      h: said.h,
      d: said.d,
      in_w: said.in_w || undefined,
      in_d: said.in_d || undefined,
      openings: said.openings
        .split(/[,;+]|\s+(?=\d{2,})/)
        .map((x) => x.trim())
        .filter(Boolean),
      drawers: drawers || undefined,
      carries: Number(said.carries.replace(",", ".")) * (units === "metric" ? 1 : 0.45359237) || undefined,
      lower: said.lower || undefined,
    };
    setAsked(body);
    judge.mutate(body);
  };
  return (
    <Part title="Furniture that was found">
      <form
        className="flex flex-wrap items-baseline gap-x-4 gap-y-1"
        data-testid="found"
        onSubmit={(e) => {
          e.preventDefault();
          go();
        }}
      >
        {field("name", "what", "w-64", "old chest")}
        {field("w", "wide", "w-28")}
        {field("h", "high", "w-28")}
        {field("d", "deep", "w-28")}
        {field("in_w", "inside wide", "w-36")}
        {field("in_d", "inside deep", "w-36")}
        {field("openings", "openings from below", "w-72", units === "metric" ? "300, 250, 250" : "12, 10, 10")}
        {field("carries", `each rated for, ${units === "metric" ? "kg" : "lb"}`, "w-48")}
        {field("lower", "cut down to", "w-40")}
        <Tickbox on={drawers} onChange={setDrawers}>
          drawers
        </Tickbox>
        <Button kind="main" type="submit" disabled={judge.isPending}>
          What is it good for?
        </Button>
      </form>
      {judge.error && (
        <p className="m-0 mt-1 text-red" role="alert">
          {judge.error.message}
        </p>
      )}
      {judge.data && asked && (
        <ul className="m-0 mt-2 list-none p-0" data-testid="found-ways">
          {judge.data.map((v) => {
            const spot = v.spots[0];
            const names = [...new Set(v.holds.map((h) => h.name))];
            return (
              <li key={v.way} className="border-b border-line py-1.5">
                <b>{titles[v.way]}</b>
                {v.at > 0 && (
                  <span className="text-quiet">{v.way === "cut-down" ? ` to ${length(v.at, units)}` : `, ${length(v.at, units)} up`}</span>
                )}
                : {names.length === 0 ? "nothing goes in" : names.length === 1 ? "one thing goes in" : `${names.length} things go in`}
                {names.length > 0 && (
                  <span className="text-quiet">
                    {": "}
                    {names.slice(0, 6).join(", ")}
                    {names.length > 6 && " …"}
                  </span>
                )}
                <span className="flex flex-wrap items-baseline justify-between gap-x-4">
                  {spot ? (
                    <span>
                      It would go to <Spot spot={spot} round={round} units={units} />
                    </span>
                  ) : (
                    <span className="text-red">No spot for it: {v.nowhere}.</span>
                  )}
                  {spot && (
                    <Button disabled={keep.isPending} onClick={() => keep.mutate({ base: revision, asked, way: v.way, spot })}>
                      Put it there
                    </Button>
                  )}
                </span>
              </li>
            );
          })}
        </ul>
      )}
      {!judge.data && (
        <p className="m-0 mt-1 text-small text-quiet">
          Measured outside and inside: which of your things without a home go in, whether a shelf more is worth it, and where it fits.
        </p>
      )}
    </Part>
  );
}
