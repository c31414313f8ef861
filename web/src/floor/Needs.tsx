import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type StationNeed } from "../api/client";
import { Part } from "../sheet/Sheet";

const called: Record<StationNeed["kind"], string> = {
  power: "power",
  dust: "dust",
  air: "air",
  light: "light",
  noise: "noise",
  weight: "weight",
};

/** Needs says what a station usually needs, and what of the room gives it where it stands. */
export function Needs({ station, revision }: { station: string; revision: number }) {
  const needs = useQuery({
    queryKey: keys.needs(station, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/stations/{id}/needs", { params: { path: { id: station } } })),
    placeholderData: (before, query) => (query?.queryKey[1] === station ? before : undefined),
  }).data;
  if (!needs || needs.length === 0) return null;
  return (
    <Part title="What it needs">
      <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-2 gap-y-1 text-small" data-testid="needs">
        {needs.map((n) => (
          <div key={n.kind} className="contents">
            <dt className="narrow w-15.5 text-quiet">{called[n.kind]}</dt>
            <dd className={`m-0 ${n.open ? "border-l-2 border-red pl-1" : ""}`}>{n.says}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 mb-0 text-small text-quiet">
        Usual figures for such a one, estimates. Circuits and outlets are for an electrician.
      </p>
    </Part>
  );
}
