/**
 * listen follows a stream of the server while the page is in sight. A browser keeps only six
 * connections to one machine open: pages in the background, and those one left that the
 * browser keeps for going back, must not hold them. Missed is called when it listens again.
 */
export function listen(url: string, events: Record<string, (data: string) => void>, missed?: () => void): () => void {
  let source: EventSource | undefined;
  let heard = false;
  const open = () => {
    if (source) return;
    if (heard) missed?.();
    heard = true;
    source = new EventSource(url);
    for (const [name, take] of Object.entries(events)) source.addEventListener(name, (e) => take((e as MessageEvent<string>).data));
  };
  const close = () => {
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
