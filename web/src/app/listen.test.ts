import { afterEach, describe, expect, it, vi } from "vitest";
import { listen } from "./listen";

const open = new Set<Fake>();
class Fake {
  static CLOSED = 2;
  readyState = 0;
  onopen?: () => void;
  onerror?: () => void;
  takes = new Map<string, (e: { data: string }) => void>();
  constructor(public url: string) {
    open.add(this);
  }
  addEventListener(name: string, take: (e: { data: string }) => void) {
    this.takes.set(name, take);
  }
  close() {
    open.delete(this);
  }
}

const seen = (state: "visible" | "hidden") => {
  vi.spyOn(document, "visibilityState", "get").mockReturnValue(state);
  document.dispatchEvent(new Event("visibilitychange"));
};

afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  open.clear();
});

describe("a stream", () => {
  it("is open while the page is in sight, once, and says when the connection is lost", () => {
    vi.stubGlobal("EventSource", Fake);
    const heard = vi.fn();
    const told = vi.fn();
    const stop = listen("/x", { revision: heard }, told);
    expect([...open].map((s) => s.url)).toEqual(["/x"]);
    for (const s of open) s.takes.get("revision")?.({ data: "7" });
    expect(heard).toHaveBeenCalledWith("7");
    seen("hidden");
    expect(open.size).toBe(0);
    seen("visible");
    window.dispatchEvent(new Event("pageshow"));
    expect(open.size).toBe(1);
    for (const s of open) s.onerror?.();
    expect(told).toHaveBeenLastCalledWith(false);
    for (const s of open) s.onopen?.();
    expect(told).toHaveBeenLastCalledWith(true);
    window.dispatchEvent(new Event("pagehide"));
    expect(open.size).toBe(0);
    stop();
    seen("visible");
    expect(open.size).toBe(0);
  });
});
