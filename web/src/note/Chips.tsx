import clsx from "clsx";
import type { ReactNode } from "react";
import type { Chip } from "../api/client";

/** Chips are the pieces of a line with what each was taken for; what was not understood is said in red. */
export function Chips({ chips, after }: { chips: readonly Chip[]; after?: (chip: Chip) => ReactNode }) {
  return chips.map((c, i) => (
    <span
      key={i}
      data-chip={c.kind}
      className={clsx(
        "border-b-2 px-0.5",
        c.kind === "unknown" ? "border-red text-red" : c.sure ? "border-[var(--order-1)]" : "border-dashed border-[var(--order-3)]",
      )}
    >
      <b>{c.text}</b> <span className="narrow">{c.kind === "unknown" || c.sure ? c.says : `taken for ${c.says}?`}</span>
      {after?.(c)}
    </span>
  ));
}
