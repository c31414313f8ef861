import { afterEach, describe, expect, it, vi } from "vitest";
import { stored } from "./stored";

afterEach(() => {
  vi.restoreAllMocks();
  localStorage.clear();
});

describe("what the browser remembers", () => {
  it("is the same object until it changes, and what was there when it cannot be read", () => {
    const s = stored<string[]>("words", []);
    s.set(["a"]);
    expect(s.get()).toBe(s.get());
    expect(stored<string[]>("words", []).get()).toEqual(["a"]);
    localStorage.setItem("words", "{broken");
    expect(s.get()).toEqual([]);
  });
  it("lasts as long as the page when the browser is full", () => {
    const s = stored("n", 1);
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    s.set(2);
    expect(s.get()).toBe(2);
  });
});
