import { memo } from "react";
import type { FreeWall } from "../api/client";
import { length, squares, type Units } from "../units";
import { depthColour, leading } from "./useFree";

interface LayerProps {
  wall: FreeWall;
  top: number;
  px: number;
  units: Units;
  /** number of the region that is chosen */
  chosen?: number;
  onChoose: (region: number) => void;
}

/** FreeWallLayer lays the depth map and the largest free rectangles over a wall. */
export const FreeWallLayer = memo(function FreeWallLayer({ wall, top, px, units, chosen, onChoose }: LayerProps) {
  const shown = leading(wall);
  const marked = chosen !== undefined ? wall.regions[chosen] : undefined;
  return (
    <g data-free={wall.id}>
      <g opacity={0.86} shapeRendering="crispEdges">
        {wall.patches.map((p, i) => {
          const fill = depthColour(p.depth, units);
          return fill ? (
            <rect
              key={i}
              x={p.x}
              y={top - p.z - p.h}
              width={p.w + 1}
              height={p.h + 1}
              fill={fill}
              onClick={() => pick(wall, p.x + p.w / 2, p.z + p.h / 2, onChoose)}
              style={{ cursor: "pointer" }}
            />
          ) : null;
        })}
      </g>
      {shown.map(({ region: r, index }) => {
        const label = `${squares(r.area, units)}, ${length(r.depth, units)} deep`;
        const fits = r.w > label.length * 6.6 * px && r.h > 20 * px;
        return (
          <g
            key={index}
            data-region={index}
            role="button"
            tabIndex={-1}
            aria-label={`free: ${label}`}
            onClick={() => onChoose(index)}
            style={{ cursor: "pointer" }}
          >
            <rect
              x={r.x}
              y={top - r.z - r.h}
              width={r.w}
              height={r.h}
              fill="transparent"
              stroke="var(--ink)"
              strokeWidth={1}
              strokeDasharray="3 3"
              vectorEffect="non-scaling-stroke"
            />
            {fits && (
              <text
                x={r.x + r.w / 2}
                y={top - r.z - r.h / 2 + 4 * px}
                textAnchor="middle"
                fontSize={12 * px}
                fontWeight={600}
                fill="var(--ink)"
              >
                {label}
              </text>
            )}
          </g>
        );
      })}
      {marked && (
        <g pointerEvents="none" data-testid="chosen-region">
          <rect
            x={marked.x}
            y={top - marked.z - marked.h}
            width={marked.w}
            height={marked.h}
            fill="var(--blue)"
            fillOpacity={0.14}
            stroke="var(--blue)"
            strokeWidth={2.4}
            vectorEffect="non-scaling-stroke"
          />
          <text
            x={marked.x + marked.w / 2}
            y={top - marked.z - marked.h - 5 * px}
            textAnchor="middle"
            fontSize={13 * px}
            fontWeight={700}
            fill="var(--blue)"
            paintOrder="stroke"
            stroke="var(--paper)"
            strokeWidth={4 * px}
          >
            {length(marked.w, units)}
          </text>
          <text
            x={marked.x + marked.w + 6 * px}
            y={top - marked.z - marked.h / 2}
            fontSize={13 * px}
            fontWeight={700}
            fill="var(--blue)"
            paintOrder="stroke"
            stroke="var(--paper)"
            strokeWidth={4 * px}
          >
            {length(marked.h, units)}
          </text>
        </g>
      )}
    </g>
  );
});

/** pick chooses the largest region over a spot. */
function pick(wall: FreeWall, x: number, z: number, onChoose: (region: number) => void) {
  const i = wall.regions.findIndex((r) => x >= r.x && x <= r.x + r.w && z >= r.z && z <= r.z + r.h);
  if (i >= 0) onChoose(i);
}
