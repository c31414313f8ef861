import { afterEach, describe, expect, it, vi } from "vitest";
import { settle, show } from "../testing";
import { Photos } from "./Photos";
import { reduced } from "./reduce";

afterEach(() => vi.unstubAllGlobals());

describe("photos", () => {
  it("go as they are when they are small, or when the browser cannot open them", async () => {
    const small = new Blob(["x"]);
    expect(await reduced(small)).toBe(small);
    const large = new Blob([new Uint8Array(3_000_000)]);
    vi.stubGlobal(
      "createImageBitmap",
      vi.fn(async () => Promise.reject(new Error("no picture"))),
    );
    expect(await reduced(large)).toBe(large);
  });
  it("are reduced to 1600 pixels when they are large", async () => {
    const size: number[] = [];
    class Canvas {
      constructor(w: number, h: number) {
        size.push(w, h);
      }
      getContext() {
        return { drawImage: vi.fn() };
      }
      async convertToBlob() {
        return new Blob(["less"]);
      }
    }
    vi.stubGlobal("OffscreenCanvas", Canvas);
    vi.stubGlobal(
      "createImageBitmap",
      vi.fn(async () => ({ width: 8000, height: 6000, close: vi.fn() })),
    );
    const out = await reduced(new Blob([new Uint8Array(3_000_000)]));
    expect(size).toEqual([1600, 1200]);
    expect(out.size).toBe(4);
  });
  it("say why one was refused and keep the others", async () => {
    vi.stubGlobal(
      "fetch",
      vi.fn(
        async () =>
          new Response(JSON.stringify({ detail: "this is no photo" }), {
            status: 422,
            headers: { "Content-Type": "application/problem+json" },
          }),
      ),
    );
    const box = await show(<Photos id="plane" name="Plane" photos={["a.jpg"]} revision={3} />);
    const input = box.querySelector("input[type=file]") as HTMLInputElement;
    Object.defineProperty(input, "files", { value: [new File(["x"], "x.txt")] });
    input.dispatchEvent(new Event("change", { bubbles: true }));
    await settle();
    await settle();
    expect(box.querySelector("[role=alert]")?.textContent).toContain("this is no photo");
    expect(box.querySelectorAll("button[aria-label='Photo of Plane, larger']")).toHaveLength(1);
    expect(vi.mocked(fetch).mock.calls[0]?.[0]).toBe("/api/v1/items/plane/photos");
    expect(vi.mocked(fetch).mock.calls[0]?.[1]?.headers).toEqual({ "If-Match": '"3"' });
  });
});
