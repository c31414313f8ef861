/** base is where this shop is served: several are side by side, each below a path of its own. */
export const base: string = /^\/shops\/[^/]+/.exec(location.pathname)?.[0] ?? "";

/** at is the address of something of this shop. */
export const at = (path: string): string => base + path;

/** mine is the name of something that the browser keeps for this shop and no other. */
export const mine = (name: string): string => (base === "" ? name : `${base} ${name}`);

/** here is the path of the screen one is on, below that of the shop. */
export const here = (): string => location.pathname.slice(base.length) || "/";
