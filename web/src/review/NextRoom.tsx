import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { at } from "../api/base";
import { api, unwrap, type Round } from "../api/client";
import { reason } from "../reason";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { squares, weight } from "../units";

/** NextRoom carries the shop over into another room: what fits, what does not, what is packed how. */
export function NextRoom({ round }: { round: Round }) {
  const [line, setLine] = useState("");
  const [stays, setStays] = useState<string[]>([]);
  const [van, setVan] = useState("");
  const [stair, setStair] = useState("");
  const ask = useMutation({
    mutationFn: async (v: { line: string; stays: string[]; van: string; stair: string }) =>
      unwrap(await api.POST("/api/v1/new-room", { body: v })),
  });
  const m = ask.data;
  const again = (next: string[]) => {
    setStays(next);
    ask.mutate({ line, stays: next, van, stair });
  };
  const file = async () => {
    const r = await fetch(at("/api/v1/new-room/file"), {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ line, stays, van, stair }),
    });
    const url = URL.createObjectURL(await r.blob());
    const a = document.createElement("a");
    a.href = url;
    a.download = "next-room.json";
    a.click();
    URL.revokeObjectURL(url);
  };
  const imperial = round.units === "imperial";
  return (
    <Part title="The next room">
      <form
        className="flex flex-wrap items-baseline gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          ask.mutate({ line, stays, van, stair });
        }}
      >
        <input
          aria-label="The next room in a line"
          placeholder={imperial ? `18' x 12' x 8', door A 3' x 6'8" at 2'` : "5.6 x 4.1 x 2.4, door A 850x1980 at 400"}
          value={line}
          onChange={(e) => setLine(e.target.value)}
          className="min-w-0 flex-1 border-b border-line bg-transparent px-1 placeholder:text-quiet"
        />
        <input
          aria-label="The van inside"
          placeholder={imperial ? `van 8' x 5'6" x 6'` : "van 2500x1700x1800"}
          value={van}
          onChange={(e) => setVan(e.target.value)}
          className="w-44 border-b border-line bg-transparent px-1 placeholder:text-quiet"
        />
        <input
          aria-label="The stair and its landing"
          placeholder={imperial ? `stair 2'9" x 3'` : "stair 850x900"}
          value={stair}
          onChange={(e) => setStair(e.target.value)}
          className="w-32 border-b border-line bg-transparent px-1 placeholder:text-quiet"
        />
        <Button type="submit" disabled={ask.isPending || line.trim() === ""}>
          Move in
        </Button>
      </form>
      {ask.error && (
        <p role="alert" className="m-0 text-red">
          {reason(ask.error)}
        </p>
      )}
      {m && (
        <div data-testid="next-room">
          <p className="m-0 mt-1">
            {m.came.length} of {m.came.length + m.left.length} stations and pieces of storage have a spot there; {m.homeless} things lose
            their home{m.found > 0 && <>, and {m.found} have a free spot there all the same</>}. Free floor {squares(m.open, round.units)}{" "}
            (here {squares(m.open_was, round.units)}), free wall {squares(m.wall, round.units)} (here {squares(m.wall_was, round.units)}).
          </p>
          {m.left.length > 0 && (
            <ul className="m-0 list-none p-0">
              {m.left.map((l) => (
                <li key={l.id} className="border-b border-line py-0.5">
                  {l.name}:{" "}
                  <span className="text-quiet">
                    {l.why}
                    {l.things > 0 && `; ${l.things} things lived in it`}
                  </span>
                </li>
              ))}
            </ul>
          )}
          <details>
            <summary className="cursor-pointer font-semibold text-blue">How it is packed</summary>
            <ul className="m-0 list-none p-0" data-testid="packs">
              {m.packs.map((p) => (
                <li key={p.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-0.5">
                  <b className="w-6 tabular-nums">{p.box}</b>
                  <span>{p.name}</span>
                  <span className="ml-auto text-small text-quiet">
                    {weight(p.kg, round.units)}
                    {p.door === "split" && ", to be split for a door"}
                    {p.van === "stuck" && ", too large for the van"}
                    {p.stair === "stuck" && ", not round the stair in one piece"}
                  </span>
                  {p.id !== "loose" && (
                    <Button onClick={() => again([...stays, p.id])} disabled={stays.includes(p.id)}>
                      It stays here
                    </Button>
                  )}
                  {p.care !== "" && <span className="w-full pl-9 text-small text-quiet">{p.care}</span>}
                </li>
              ))}
            </ul>
            <p className="m-0 text-small text-quiet">What is needed first has the lowest number: it is loaded last.</p>
          </details>
          {m.wishes.length > 0 && <p className="m-0">What you waited with until then: {m.wishes.join(", ")}.</p>}
          {m.undo.length > 0 && (
            <details>
              <summary className="cursor-pointer font-semibold text-blue">What is to be undone here</summary>
              <p className="m-0 text-small">{m.undo.join("; ")}</p>
            </details>
          )}
          {m.relics.length > 0 && (
            <details>
              <summary className="cursor-pointer font-semibold text-blue">Hardly worth taking along</summary>
              <ul className="m-0 list-none p-0 text-small">
                {m.relics.map((x) => (
                  <li key={x.id}>
                    <b>{x.name}</b>, {squares(x.m2, round.units)}: {x.says}
                  </li>
                ))}
              </ul>
            </details>
          )}
          <Button onClick={() => void file()}>As a shop file of its own</Button>
        </div>
      )}
    </Part>
  );
}
