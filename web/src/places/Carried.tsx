import { length, seconds, type Units } from "../units";
import type { Carry } from "./useCarry";

/** Carried is what the core says of the spot a place is held over, at the pointer. */
export function Carried({ carry: c, units }: { carry: Carry; units: Units }) {
  const a = c.answer;
  const no = a && !a.allowed;
  return (
    <div className="pointer-events-none fixed z-50" style={{ left: c.at.x, top: c.at.y }} data-testid="carried">
      <div
        className={`absolute top-4 left-4 w-max max-w-80 border px-2 py-1 text-small ${no ? "border-red bg-red-wash text-red" : "border-blue bg-sheet text-ink"}`}
        role="status"
      >
        {c.target ? (
          <>
            <b>
              {c.what.id} on {c.target.wall}
            </b>{" "}
            {length(c.target.x, units)} from the left, {length(c.target.z, units)} up
          </>
        ) : (
          <b>{c.what.id}: hold it over a wall</b>
        )}
        {c.target && !a && <div className="text-quiet">…</div>}
        {a?.allowed && (
          <div>
            <b>{seconds(a.seconds)}</b> a week here, {seconds(a.now)} now
          </div>
        )}
        {a?.broken.slice(0, 2).map((b) => (
          <div key={b}>{b}</div>
        ))}
        {a?.allowed &&
          a.cautions.slice(0, 2).map((b) => (
            <div key={b} className="text-red">
              {b}
            </div>
          ))}
      </div>
    </div>
  );
}
