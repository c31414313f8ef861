import type { FreeWall, Elevation as WallElevation, WallNotes } from "../api/client";
import { FreeWallLayer } from "../free/FreeWallLayer";
import { topAt } from "../stage/geometry";
import { Patterns, Wall } from "../stage/Wall";
import { useBox } from "../ui/useBox";
import { length, type Units } from "../units";

interface ElevationProps {
  wall: WallElevation;
  notes?: WallNotes;
  units: Units;
  free?: FreeWall;
  region?: number;
  onRegion: (region: number) => void;
  /** path of the field in focus: its feature is dimensioned */
  aim: string;
}

const [left, right, over, under] = [62, 62, 22, 50]; // px round the wall

/** Elevation draws one wall from inside, with its dimensions. */
export function Elevation({ wall, notes, units, free, region, onRegion, aim }: ElevationProps) {
  const [ref, box] = useBox<HTMLDivElement>();
  const top = Math.max(...wall.profile.map((p) => p[1] ?? 0));
  const scale = Math.max(0.001, Math.min((box.w - left - right) / wall.length, (box.h - over - under) / top));
  const px = 1 / scale;
  const assumed = notes?.points.some((p) => p.assumed) ?? false;
  const measured = notes?.length.text !== "";
  const [h0, h1] = [topAt(wall, 0), topAt(wall, wall.length)];
  const halo = { paintOrder: "stroke" as const, stroke: "var(--paper)", strokeWidth: 4 * px };
  const quiet = (yes: boolean) => ({
    fill: yes ? "var(--quiet)" : "var(--ink)",
    fontStyle: yes ? "italic" : "normal",
    fontWeight: yes ? 400 : 700,
  });
  const tick = (x: number, y: number) => (
    <path d={`M${x - 4 * px} ${y + 4 * px}l${8 * px} ${-8 * px}`} stroke="var(--ink)" strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
  );
  const inFocus = wall.features.find((f) => aim.includes(`/features/${f.id}/`));
  const w = wall.length + (left + right) * px;
  const h = top + (over + under) * px;

  return (
    <div ref={ref} className="stage relative min-h-0 flex-1">
      <svg
        width={w * scale}
        height={h * scale}
        viewBox={`${-left * px} ${-over * px} ${w} ${h}`}
        className="mx-auto"
        role="group"
        aria-label={`Wall ${wall.id} from inside`}
        data-testid="elevation"
      >
        <Patterns />
        <Wall elevation={wall} top={top} px={px} studs />
        {free && <FreeWallLayer wall={free} top={top} px={px} units={units} chosen={region} onChoose={onRegion} />}
        {/* heights at the ends */}
        {[
          [-16 * px, h0, "end", -24 * px],
          ...(Math.abs(h1 - h0) > 1 ? [[wall.length + 16 * px, h1, "start", wall.length + 24 * px]] : []),
        ].map(([x, z, anchor, tx]) => (
          <g key={String(anchor)}>
            <line
              x1={x as number}
              x2={x as number}
              y1={top}
              y2={top - (z as number)}
              stroke="var(--ink)"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
            {tick(x as number, top)}
            {tick(x as number, top - (z as number))}
            <text x={tx as number} y={top - (z as number) / 2 + 4 * px} textAnchor={anchor as "end"} fontSize={13 * px} {...quiet(assumed)}>
              {length(z as number, units)}
            </text>
          </g>
        ))}
        {/* the length, below the letter */}
        <line
          x1={0}
          x2={wall.length}
          y1={top + 40 * px}
          y2={top + 40 * px}
          stroke="var(--ink)"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
        {tick(0, top + 40 * px)}
        {tick(wall.length, top + 40 * px)}
        <text
          x={wall.length * 0.72}
          y={top + 44 * px}
          textAnchor="middle"
          fontSize={13 * px}
          {...quiet(!measured)}
          {...halo}
          strokeWidth={8 * px}
        >
          {length(wall.length, units)}
        </text>
        {inFocus && (
          <g stroke="var(--blue)" fill="var(--blue)" fontSize={13 * px} fontWeight={700} data-testid="dimensioned">
            <rect
              x={inFocus.x}
              y={top - inFocus.z - inFocus.h}
              width={inFocus.w}
              height={inFocus.h}
              fill="var(--blue)"
              fillOpacity={0.12}
              strokeWidth={2}
              vectorEffect="non-scaling-stroke"
            />
            <line x1={0} x2={inFocus.x} y1={top + 9 * px} y2={top + 9 * px} strokeWidth={1.4} vectorEffect="non-scaling-stroke" />
            <text x={inFocus.x / 2} y={top + 20 * px} textAnchor="middle" stroke="none">
              {length(inFocus.x, units)}
            </text>
            <text x={inFocus.x + inFocus.w / 2} y={top - inFocus.z - inFocus.h - 5 * px} textAnchor="middle" {...halo}>
              {length(inFocus.w, units)} × {length(inFocus.h, units)}
            </text>
            {inFocus.z > 0 && (
              <>
                <line
                  x1={inFocus.x - 8 * px}
                  x2={inFocus.x - 8 * px}
                  y1={top}
                  y2={top - inFocus.z}
                  strokeWidth={1.4}
                  vectorEffect="non-scaling-stroke"
                />
                <text x={inFocus.x - 12 * px} y={top - inFocus.z / 2} textAnchor="end" {...halo}>
                  {length(inFocus.z, units)}
                </text>
              </>
            )}
          </g>
        )}
      </svg>
    </div>
  );
}
