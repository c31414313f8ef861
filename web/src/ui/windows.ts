/** Classes of what lies over the page: the shade on it, and a window in its middle. */
export const shade = "fixed inset-0 z-40 bg-black/40";
export const centred = "fixed top-1/2 left-1/2 z-50 max-h-[92vh] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-5 text-ink";
