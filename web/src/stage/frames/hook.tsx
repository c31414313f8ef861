import { ground, type Framed } from "./frame";

/** Hook is a hook under the ceiling. */
export function Hook(f: Framed) {
  const { p, y } = f;
  return (
    <g>
      {ground(f, "none", 0)}
      <path
        d={`M${p.x + p.w / 2} ${y}v50q0 40 40 40t40-40`}
        fill="none"
        stroke="var(--steel-dark)"
        strokeWidth={2.4}
        vectorEffect="non-scaling-stroke"
      />
    </g>
  );
}
