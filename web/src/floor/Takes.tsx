import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, unwrap, type Station, type Takes as Answer } from "../api/client";
import { reason } from "../reason";
import { Part, Row } from "../sheet/Sheet";
import { Labelled } from "../ui/Labelled";
import { TypedIn } from "../ui/TypedIn";
import { distance, seconds, type Units } from "../units";

/** useTakes is what a machine takes where it stands, in a mode when one is named; nothing of what nothing is fed through. */
export function useTakes(station: Station | undefined, mode: string, long: string, revision: number) {
  const id = station?.id ?? "";
  return useQuery({
    queryKey: keys.takes(id, mode, long, revision),
    queryFn: async () =>
      unwrap(
        await api.GET("/api/v1/stations/{id}/takes", {
          params: { path: { id }, query: { ...(mode !== "" && { mode }), ...(long !== "" && { long }) } },
        }),
      ),
    enabled: station?.feed !== undefined,
    retry: false,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  });
}

type Stop = Answer["in"][number];

/** side is what a piece comes up against on one side, in words. */
function side(stops: readonly Stop[], units: Units): string {
  if (stops.length === 0) return "nothing known in its way";
  return stops
    .map((s) => `${s.name} at ${distance(s.at, units)}${s.gives ? (s.kind === "leaf" ? ", which opens" : ", which can be moved") : ""}`)
    .join("; then ");
}

/** Takes says what a machine can take here, and what must be opened or moved for a longer piece. */
export function Takes({ station, mode, revision, units }: { station: Station; mode: string; revision: number; units: Units }) {
  const [long, setLong] = useState("");
  const asked = useTakes(station, mode, long, revision);
  const t = asked.data;
  if (station.feed === undefined) return null;
  return (
    <Part title="What it takes here">
      <div data-testid="takes" className="min-h-40">
        {t && <Section t={t} table={station.h} units={units} />}
        {!t && asked.isError && long === "" && <p className="m-0 text-small text-quiet">It is not on the floor then.</p>}
        {t && (
          <>
            <Row label="longest piece" value={t.endless ? `over ${distance(t.longest, units)}` : distance(t.longest, units)} />
            <p className="m-0 text-small text-quiet">
              Before it: {side(t.in, units)}. Behind it: {side(t.out, units)}.
            </p>
            {t.sheet > 0 && (
              <>
                <Row label={`sheet ${distance(t.sheet, units)} long`} value={`${distance(Math.min(t.widest, 12000), units)} wide`} />
                <p className="m-0 text-small text-quiet">
                  From the cut to the left {t.by_left ? `${distance(t.left, units)}, ${t.by_left.name}` : "nothing known"}; to the right{" "}
                  {t.by_right ? `${distance(t.right, units)}, ${t.by_right.name}` : "nothing known"}.
                </p>
              </>
            )}
            {t.plate > 0 && <Row label="the machine itself takes" value={`${distance(t.plate, units)} wide`} />}
            {t.thick > 0 && (
              <>
                <Row label="thickest piece" value={distance(t.thick, units)} />
                {t.by_thick !== t.name && (
                  <p className="m-0 text-small text-quiet">
                    {t.by_thick} hangs {distance(t.above, units)} over the table, over its way.
                  </p>
                )}
              </>
            )}
            {t.carries.map((c) => (
              <p key={c.id} className="m-0 text-small">
                <b>{c.name}</b> {c.riser > 0 ? "would carry it" : "carries it"} {c.side === "in" ? "before" : "behind"} the machine
                {c.riser > 0 ? `, raised by ${distance(c.riser, units)}` : ""}.
              </p>
            ))}
            {t.carries.length === 0 && t.longest > 900 && (
              <p className="m-0 text-small">
                Nothing carries a long piece beside it: use a roller stand before you let go, and do not reach over the blade.
              </p>
            )}
            <Labelled label="To pass a piece of" width="mt-2 w-full">
              <TypedIn value={long} onDone={setLong} onTyped={() => undefined} className="border-b border-line" />
            </Labelled>
            {t.long > 0 && t.why === "" && t.first.length === 0 && <p className="m-0 text-small">It passes as things stand.</p>}
            {t.first.length > 0 && (
              <ol className="m-0 list-decimal pl-5 text-small" aria-label="Before it passes">
                {t.first.map((s) => (
                  <li key={s.id}>
                    {s.do}, {seconds(s.seconds)}; then up to {distance(s.longest, units)}
                  </li>
                ))}
              </ol>
            )}
            {t.why !== "" && <p className="m-0 text-small font-semibold text-red">{t.why}.</p>}
          </>
        )}
        {long !== "" && asked.isError && (
          <p role="alert" className="m-0 text-small font-semibold text-red">
            {reason(asked.error)}
          </p>
        )}
      </div>
    </Part>
  );
}

/** Section is the way of a piece seen from its side: the table, what carries or stops it, and how far it goes. */
export function Section({ t, table, units }: { t: Answer; table: number; units: Units }) {
  const w = 258;
  const h = 96;
  const ends = t.profile.flatMap((b) => [b.from, b.to]);
  const left = Math.max(-4000, Math.min(-800, ...ends));
  const right = Math.min(4000, Math.max(800, ...ends));
  const s = Math.min(w / (right - left), (h - 12) / 2200);
  const x = (mm: number) => (Math.min(right, Math.max(left, mm)) - left) * s;
  const y = (mm: number) => h - 10 - Math.min(2200, mm) * s;
  const long = Math.min(t.longest, 4000);
  return (
    <svg
      width={w}
      height={h}
      role="img"
      aria-label={`Seen from the side: the table at ${distance(table, units)}, a piece up to ${distance(t.longest, units)} long on each side of the cut`}
      data-testid="section"
      className="mt-1 block"
    >
      <line x1={0} x2={(right - left) * s} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={1.5} />
      {t.profile.map((b, i) => (
        <rect
          key={i}
          x={x(b.from) - (b.from === b.to ? 2 : 0)}
          y={y(b.high)}
          width={Math.max(3, x(b.to) - x(b.from))}
          height={Math.max(1, y(b.low) - y(b.high))}
          fill={b.own ? "var(--wood)" : b.stops ? "var(--red-wash)" : "var(--steel)"}
          stroke={b.stops ? "var(--red)" : "var(--quiet)"}
          strokeWidth={0.8}
        >
          <title>{b.name}</title>
        </rect>
      ))}
      <line x1={x(-long)} x2={x(long)} y1={y(table) - 2} y2={y(table) - 2} stroke="var(--blue)" strokeWidth={3} />
      <line x1={x(0)} x2={x(0)} y1={y(table) - 14} y2={y(table) + 4} stroke="var(--ink)" strokeWidth={1} strokeDasharray="2 2" />
    </svg>
  );
}
