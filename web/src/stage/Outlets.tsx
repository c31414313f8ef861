import type { Round } from "../api/client";
import { fixed } from "../units";
import { useOutlets } from "../supply/useSupply";
import { lenses, plugged } from "./lenses";

/** areasOf are the areas of a round, in its order. */
export const areasOf = (round: Round) => [...new Set(round.elevations.filter((e) => !e.middle).map((e) => e.area))];

/** Outlets marks every outlet by how full its circuit is, with what is plugged into it. */
export function Outlets({
  round,
  revision,
  only,
  top,
  px,
}: {
  round: Round;
  revision: number;
  only: number | undefined;
  top: number;
  px: number;
}) {
  const outlets = useOutlets(areasOf(round), revision, true);
  const steps = lenses.find((l) => l.id === "supply")?.steps ?? [];
  return (
    <g data-testid="outlets">
      {round.elevations.map((e, i) =>
        (only !== undefined && only !== i) || e.middle
          ? null
          : e.features.map((f) => {
              const o = outlets.get(`${e.area}/${f.id}`);
              if (!o) return null;
              const [x, y] = [e.offset + f.x + f.w / 2, top - f.z - f.h / 2];
              const says = [
                o.circuit,
                o.amps > 0 ? `${fixed(o.amps, 0)}${o.rated > 0 ? ` of ${fixed(o.rated, 0)}` : ""} A` : "",
                o.machines.join(", "),
              ].filter(Boolean);
              return (
                <g key={f.id} data-outlet={f.id}>
                  <title>{[o.name, ...says].join(", ")}</title>
                  <circle
                    cx={x}
                    cy={y}
                    r={Math.max(70, 9 * px)}
                    fill={steps[plugged(o)]?.colour}
                    stroke="var(--ink)"
                    strokeWidth={1.4 * px}
                  />
                  {says.map((t, k) => (
                    <text
                      key={k}
                      x={x}
                      y={y + Math.max(70, 9 * px) + (k + 1) * 13 * px}
                      textAnchor="middle"
                      fontSize={11.5 * px}
                      fill="var(--ink)"
                      stroke="var(--wall)"
                      strokeWidth={3 * px}
                      paintOrder="stroke"
                    >
                      {t.length > 26 ? `${t.slice(0, 25)}…` : t}
                    </text>
                  ))}
                </g>
              );
            }),
      )}
    </g>
  );
}
