/** Heads and cells of the tables of supply. */
export const head = "border-b border-ink py-1 pl-3 text-right font-normal text-quiet";
export const cell = "border-b border-line py-1 pl-3 text-right tabular-nums whitespace-nowrap";
