import { at } from "../api/base";
import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type Place, type Round } from "../api/client";
import { useShown } from "../app/shown";
import { Photos } from "../photo/Photos";
import { InOrder } from "../places/InOrder";
import { Closely, Facts, Inside, Where } from "../places/Inside";
import { load, seconds, size, percent } from "../units";
import { Findings } from "./Findings";
import { Part, Row, Sheet } from "./Sheet";

/** PlaceSheet says what a place is, what it carries and what lives there. */
export function PlaceSheet({ round, place: p, revision }: { round: Round; place: Place; revision: number }) {
  const { select } = useShown();
  const units = round.units;
  const here = round.items.filter((i) => i.place === p.id).sort((a, b) => b.seconds - a.seconds);
  const worth = useQuery({
    queryKey: keys.worth(p.id, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/places/{id}/worth", { params: { path: { id: p.id } } })),
  }).data;
  const host = round.things.find((t) => t.id === p.host);
  const share = p.capacity > 0 ? p.kg / p.capacity : 0;
  return (
    <Sheet
      onClose={() => select(undefined)}
      live
      title={p.name || p.id}
      address={p.id}
      sub={
        <>
          {p.style && `${p.style} `}
          {p.word}
          {host && `, ${host.name}`}
          <br />
          {size([p.w, p.h, p.d], units)}
          {p.access.length > 0 && ` · behind ${p.access.join(" and ")}`}
        </>
      }
    >
      {p.pictured && (
        <div className="mt-2">
          <Photos of="places" id={p.pictured} name={host?.name ?? (p.name || p.id)} photos={p.photos} revision={revision} height={64} />
        </div>
      )}
      <Part title="What it carries">
        <Row label="load" value={load(p.kg, p.capacity, units)} />
        {p.capacity > 0 && (
          <div className="mt-0.5 h-1.5 bg-line" aria-hidden>
            <div
              className="h-full"
              style={{ width: `${Math.min(100, 100 * share)}%`, background: share > 1 ? "var(--red)" : "var(--ink)" }}
            />
          </div>
        )}
        <div className="mt-1">
          <Row label="weekly handling" value={seconds(p.seconds)} />
          {worth && (
            <Row
              label={`filled, ${percent(worth.growth)} for growth`}
              value={`${percent(worth.fill)}`}
              colour={worth.fill > 1 - worth.growth ? "var(--red)" : undefined}
            />
          )}
        </div>
      </Part>
      {worth && worth.gains.some((g) => g.seconds >= 0.5) && (
        <Part title="What would gain most here">
          {worth.gains
            .filter((g) => g.seconds >= 0.5)
            .slice(0, 3)
            .map((g) => (
              <div key={g.item} className="flex justify-between gap-2 py-px">
                <span className="min-w-0 truncate">{g.name}</span>
                <span className="narrow shrink-0 text-small">
                  <b>{seconds(g.seconds)}</b>{" "}
                  <span className="text-quiet">{g.next ? `less than in ${g.next}` : "less than with no home"}</span>
                </span>
              </div>
            ))}
          <p className="text-small text-quiet">a week, against the next best spot that is free</p>
        </Part>
      )}
      <Findings
        revision={revision}
        about={round.places.filter((o) => o.id === p.id || (p.host !== "" && o.host === p.host)).map((o) => o.id)}
      />
      <Inside place={p} round={round} revision={revision} />
      <Part title={here.length > 0 ? `${p.items} in it` : "Nothing lives here"}>
        {here.length === 0 && <p className="text-small text-quiet">Drag something here from the tray or from another place.</p>}
        {here.map((i) => (
          <button
            key={i.id}
            onClick={() => select({ kind: "item", id: i.id })}
            className="flex w-full justify-between gap-2 py-0.5 text-left hover:text-blue"
          >
            <span className="min-w-0 truncate">
              {i.count > 1 ? `${i.count} × ` : ""}
              {i.name}
            </span>
            <span className="shrink-0 text-quiet">{seconds(i.seconds)}</span>
          </button>
        ))}
      </Part>
      <InOrder key={`order ${p.id}`} place={p} revision={revision} />
      {here.length > 0 && (
        <Part title="Outlines, full size">
          <p className="m-0 flex flex-wrap gap-x-4">
            {(["shadows", "foam"] as const).map((what) => (
              <a
                key={what}
                className="border-b-2 border-transparent py-1 font-semibold text-blue hover:border-blue"
                href={at(`/api/v1/print/${what}/drawing.pdf?place=${encodeURIComponent(p.id)}`)}
                target="_blank"
                rel="noreferrer"
              >
                {what === "foam" ? "Pockets in foam" : "Shadows"}
              </a>
            ))}
          </p>
          <p className="m-0 text-small text-quiet">Print at 100 %; trace the tool itself where it is otherwise.</p>
        </Part>
      )}
      <Facts key={p.id} place={p} round={round} revision={revision} />
      {p.sides && <Closely key={`closely ${p.id}`} place={p} revision={revision} />}
      <Where key={p.id + String(p.x) + String(p.z)} place={p} round={round} revision={revision} />
    </Sheet>
  );
}
