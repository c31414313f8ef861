import { afterEach, describe, expect, it, vi } from "vitest";
import { told, type Told } from "./stream";

function answering(chunks: string[], status = 200) {
  const body = new ReadableStream({
    start(c) {
      for (const x of chunks) c.enqueue(new TextEncoder().encode(x));
      c.close();
    },
  });
  vi.stubGlobal(
    "fetch",
    vi.fn(async () => new Response(body, { status })),
  );
}
afterEach(() => vi.unstubAllGlobals());

async function all(): Promise<Told[]> {
  const out: Told[] = [];
  for await (const t of told("/x", 1, {})) out.push(t);
  return out;
}

describe("events of a stream", () => {
  it("come whole, however they were cut on the way", async () => {
    answering(["event: progress\nda", 'ta: {"done":1}\n', '\nevent: done\ndata: {"new":2}\n\n', "event: lost"]);
    expect(await all()).toEqual([
      { event: "progress", data: { done: 1 } },
      { event: "done", data: { new: 2 } },
    ]);
  });
  it("are an error with the server's sentence when the stream does not begin", async () => {
    answering(['{"detail":"too large"}'], 413);
    await expect(all()).rejects.toThrow("too large");
  });
});
