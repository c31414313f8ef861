import { Progress as Primitive } from "radix-ui";

/** Progress shows how much of something is done, from 0 to 1. */
export function Progress({ share, label }: { share: number; label: string }) {
  return (
    <Primitive.Root value={Math.round(100 * share)} aria-label={label} className="h-3 w-50 border border-ink bg-paper">
      <Primitive.Indicator className="h-full bg-blue" style={{ width: `${100 * share}%` }} />
    </Primitive.Root>
  );
}
