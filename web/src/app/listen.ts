/** patience is how long to wait before listening again when the browser does not, in ms. */
const patience = 2000;

/**
 * listen follows a stream of the server while the page is in sight. A browser keeps only six
 * connections to one machine open: pages in the background, and those one left that the
 * browser keeps for going back, must not hold them. Told is called whenever the connection is lost or there again.
 */
export function listen(url: string, events: Record<string, (data: string) => void>, told?: (connected: boolean) => void): () => void {
  let source: EventSource | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  const open = () => {
    if (source) return;
    source = new EventSource(url);
    source.onopen = () => told?.(true);
    source.onerror = () => {
      told?.(false);
      // A browser tries again by itself, but not after an answer that is no stream, as from a proxy.
      if (source?.readyState === EventSource.CLOSED) {
        close();
        again = setTimeout(look, patience);
      }
    };
    for (const [name, take] of Object.entries(events)) source.addEventListener(name, (e) => take((e as MessageEvent<string>).data));
  };
  const close = () => {
    clearTimeout(again);
    source?.close();
    source = undefined;
  };
  const look = () => (document.visibilityState === "hidden" ? close() : open());
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
