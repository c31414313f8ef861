import { createElement, lazy, useState, type ComponentType } from "react";

/**
 * later is a component whose code comes when it is needed, or when fetch is called before. What is
 * there already is shown at once: React would hold back even that for a moment.
 */
export function later<P extends object>(load: () => Promise<{ default: ComponentType<P> }>): [ComponentType<P>, () => Promise<unknown>] {
  let got: ComponentType<P> | undefined;
  const fetch = async () => {
    const m = await load();
    got = m.default;
    return m;
  };
  const Waiting = lazy(fetch) as unknown as ComponentType<P>;
  const Later = (props: P) => {
    const [shown] = useState(() => got ?? Waiting);
    return createElement(shown, props);
  };
  return [Later, fetch];
}
