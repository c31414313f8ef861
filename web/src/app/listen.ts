/** patience is how long to wait before listening again when the browser does not, in ms. */
const patience = 2000;

/**
 * listen follows a stream of the server while the page is in sight. A browser keeps only six
 * connections to one machine open: pages in the background, and those one left that the
 * browser keeps for going back, must not hold them. Told is called whenever the connection is lost or there again.
 */
export function listen(url: string, events: Record<string, (data: string) => void>, told?: (connected: boolean) => void): () => void {
  let stop: (() => void) | undefined;
  const close = () => {
    stop?.();
    stop = undefined;
  };
  const look = () => {
    if (document.visibilityState === "hidden") close();
    else stop ??= hear(url, events, told);
  };
  document.addEventListener("visibilitychange", look);
  window.addEventListener("pagehide", close);
  window.addEventListener("pageshow", look);
  look();
  return () => {
    document.removeEventListener("visibilitychange", look);
    window.removeEventListener("pagehide", close);
    window.removeEventListener("pageshow", look);
    close();
  };
}

/** hear follows a stream until it is stopped, and again after it was lost. */
function hear(url: string, events: Record<string, (data: string) => void>, told?: (connected: boolean) => void): () => void {
  let source: EventSource | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  const open = () => {
    source = new EventSource(url);
    source.onopen = () => told?.(true);
    source.onerror = () => {
      told?.(false);
      // A browser tries again by itself, but not after an answer that is no stream, as from a proxy.
      if (source?.readyState === EventSource.CLOSED) {
        source.close();
        again = setTimeout(open, patience);
      }
    };
    for (const [name, take] of Object.entries(events)) source.addEventListener(name, (e) => take((e as MessageEvent<string>).data));
  };
  open();
  return () => {
    clearTimeout(again);
    source?.close();
  };
}

type Passed = { event: string; data: string } | { connected: boolean };

/**
 * listenTogether is listen with one connection for all windows of a browser: one of them holds it and
 * passes on what it hears, and when it goes another takes over. A browser that cannot do that, as on a page
 * that did not come over https or from this machine, has one connection a window.
 */
export function listenTogether(
  url: string,
  events: Record<string, (data: string) => void>,
  told?: (connected: boolean) => void,
): () => void {
  if (!("locks" in navigator) || typeof BroadcastChannel === "undefined") return listen(url, events, told);
  const others = new BroadcastChannel(`hobrak ${url}`);
  others.onmessage = (e: MessageEvent<Passed>) => {
    if ("connected" in e.data) told?.(e.data.connected);
    else events[e.data.event]?.(e.data.data);
  };
  let leave: AbortController | undefined;
  const hold = (signal: AbortSignal) =>
    new Promise<void>((done) => {
      const passing = Object.fromEntries(
        Object.entries(events).map(([event, take]) => [
          event,
          (data: string) => {
            others.postMessage({ event, data } satisfies Passed);
            take(data);
          },
        ]),
      );
      const stop = hear(url, passing, (connected) => {
        others.postMessage({ connected } satisfies Passed);
        told?.(connected);
      });
      signal.addEventListener("abort", () => {
        stop();
        done();
      });
    });
  const join = () => {
    if (leave) return;
    const now = new AbortController();
    leave = now;
    navigator.locks.request(`hobrak ${url}`, { signal: now.signal }, () => hold(now.signal)).catch(() => undefined); // left before its turn came
  };
  const part = () => {
    leave?.abort();
    leave = undefined;
  };
  // A page that is left, even one the browser keeps for going back, lets go at once.
  window.addEventListener("pagehide", part);
  window.addEventListener("pageshow", join);
  join();
  return () => {
    window.removeEventListener("pagehide", part);
    window.removeEventListener("pageshow", join);
    part();
    others.close();
  };
}
