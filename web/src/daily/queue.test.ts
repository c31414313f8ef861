import { describe, expect, it } from "vitest";
import { Queue, type Answered, type Kept, type Press } from "./queue";

/** random numbers that come again, after mulberry32. */
function random(seed: number) {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Shop is a server with three of each of five things. */
class Shop {
  out = new Map<string, number>();
  known = new Map<string, Answered>();
  log: string[] = [];
  take(press: Press): Answered {
    const before = this.known.get(press.key);
    if (before) return before;
    const item = press.body.items?.[0]?.item ?? "";
    const n = this.out.get(item) ?? 0;
    const back = press.body.what === "put-back";
    let answer: Answered;
    if (back ? n === 0 : n === 3) answer = { kind: "refused", why: "not so" };
    else {
      this.out.set(item, back ? n - 1 : n + 1);
      this.log.push(`${press.body.what} ${item}`);
      answer = { kind: "done", says: "", events: [] };
    }
    // What was refused is not kept: it may be so later.
    if (answer.kind === "done") this.known.set(press.key, answer);
    return answer;
  }
}

function presses(rnd: () => number, n: number): Press[] {
  return Array.from({ length: n }, (_, i) => ({
    key: `k${i}`,
    at: i * 1000,
    words: "",
    body: { what: rnd() < 0.55 ? "taken" : "put-back", items: [{ item: `i${Math.floor(rnd() * 5)}`, n: 1 }] },
  }));
}

function queue(send: (p: Press, ago: number) => Promise<Answered>, now?: () => number) {
  let text = JSON.stringify({ waiting: [], refused: [] } satisfies Kept);
  return new Queue({ read: () => JSON.parse(text) as Kept, write: (k) => (text = JSON.stringify(k)) }, send, now);
}

describe("presses that wait", () => {
  it("come to the same as when the line had held, whatever is lost or sent twice", async () => {
    for (let seed = 1; seed <= 25; seed++) {
      const rnd = random(seed);
      const list = presses(rnd, 200);
      const straight = new Shop();
      for (const p of list) straight.take(p);
      const shop = new Shop();
      const q = queue(async (p) => {
        if (rnd() < 0.3) return { kind: "lost" }; // never came
        const answer = shop.take(p);
        if (rnd() < 0.15) shop.take(p); // came twice
        if (rnd() < 0.3) return { kind: "lost" }; // its answer was lost
        return answer;
      });
      for (const p of list) await q.add(p);
      for (let k = 0; k < 2000 && q.kept().waiting.length > 0; k++) await q.flush();
      expect(q.kept().waiting).toEqual([]);
      expect([...shop.out].sort(), `seed ${seed}`).toEqual([...straight.out].sort());
      expect(shop.log).toEqual(straight.log);
    }
  });

  it("say how long ago they were made by the clock they were made at", async () => {
    const ages: number[] = [];
    let clock = 1000;
    let up = false;
    const q = queue(
      async (_, ago) => {
        if (!up) return { kind: "lost" };
        ages.push(ago);
        return { kind: "done", says: "", events: [] };
      },
      () => clock,
    );
    await q.add({ key: "a", at: 1000, words: "", body: { what: "taken", items: [] } });
    clock = 61_000;
    up = true;
    await q.flush();
    expect(ages).toEqual([60]);
  });

  it("keep what was refused until it is read", async () => {
    const q = queue(async () => ({ kind: "refused", why: "the last one is out" }));
    expect(await q.add({ key: "a", at: 0, words: "Jack plane taken", body: { what: "taken", items: [] } })).toEqual({
      kind: "refused",
      why: "the last one is out",
    });
    expect(q.kept().refused.map((r) => r.why)).toEqual(["the last one is out"]);
    q.forget("a");
    expect(q.kept().refused).toEqual([]);
  });
});
