import { afterEach, describe, expect, it, vi } from "vitest";
import { listen } from "./listen";

const open = new Set<Fake>();
class Fake {
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
  it("is open while the page is in sight, once, and says when something was missed", () => {
    vi.stubGlobal("EventSource", Fake);
    const heard = vi.fn();
    const missed = vi.fn();
    const stop = listen("/x", { revision: heard }, missed);
    expect([...open].map((s) => s.url)).toEqual(["/x"]);
    for (const s of open) s.takes.get("revision")?.({ data: "7" });
    expect(heard).toHaveBeenCalledWith("7");
    seen("hidden");
    expect(open.size).toBe(0);
    expect(missed).not.toHaveBeenCalled();
    seen("visible");
    window.dispatchEvent(new Event("pageshow"));
    expect(open.size).toBe(1);
    expect(missed).toHaveBeenCalledTimes(1);
    window.dispatchEvent(new Event("pagehide"));
    expect(open.size).toBe(0);
    stop();
    seen("visible");
    expect(open.size).toBe(0);
  });
});
