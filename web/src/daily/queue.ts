import type { components } from "../api/schema.gen";

/** TapBody is what one press says. */
export type TapBody = Omit<components["schemas"]["TapRequest"], "$schema" | "key" | "ago">;

/** Press is a press that may not have got through yet. */
export interface Press {
  /** its own key, by which it counts once however often it is sent */
  key: string;
  /** when it was pressed, by the clock of this device */
  at: number;
  body: TapBody;
  /** what it was, in words, for when it is refused */
  words: string;
}

/** Answered is what became of a press that was sent. */
export type Answered = { kind: "done"; says: string; events: number[] } | { kind: "refused"; why: string } | { kind: "lost" };

/** Kept is what is left to send, and what was refused when it came. */
export interface Kept {
  waiting: Press[];
  refused: { press: Press; why: string }[];
}

/** Keeper keeps what waits, over a reload. */
export interface Keeper {
  read: () => Kept;
  write: (kept: Kept) => void;
}

/**
 * Queue sends presses one after the other, in the order they were made. What does not get through waits; since each has a key of its
 * own, it is sent again whether or not it came through before its answer was lost.
 */
export class Queue {
  private sending: Promise<void> | undefined;
  private watchers = new Set<() => void>();

  constructor(
    private keeper: Keeper,
    private send: (press: Press, ago: number) => Promise<Answered>,
    private now: () => number = Date.now,
  ) {}

  kept = (): Kept => this.keeper.read();

  watch = (tell: () => void) => {
    this.watchers.add(tell);
    return () => this.watchers.delete(tell);
  };

  private change(how: (kept: Kept) => Kept) {
    this.keeper.write(how(this.keeper.read()));
    for (const tell of this.watchers) tell();
  }

  /** add a press and send it, unless others wait still; what became of it, as far as that is known by then. */
  async add(press: Press): Promise<Answered> {
    this.change((k) => ({ ...k, waiting: [...k.waiting, press] }));
    let answer: Answered = { kind: "lost" };
    await this.flush((p, a) => {
      if (p.key === press.key) answer = a;
    });
    return answer;
  }

  /** flush sends what waits. */
  async flush(told?: (press: Press, answer: Answered) => void): Promise<void> {
    // One at a time: the next begins with what is left.
    while (this.sending) await this.sending;
    this.sending = this.run(told);
    try {
      await this.sending;
    } finally {
      this.sending = undefined;
    }
  }

  private async run(told?: (press: Press, answer: Answered) => void) {
    for (;;) {
      const press = this.keeper.read().waiting[0];
      if (!press) return;
      const answer = await this.send(press, Math.max(0, (this.now() - press.at) / 1000));
      if (answer.kind === "lost") return;
      this.change((k) => ({
        waiting: k.waiting.filter((p) => p.key !== press.key),
        refused: answer.kind === "refused" ? [...k.refused, { press, why: answer.why }] : k.refused,
      }));
      told?.(press, answer);
    }
  }

  /** forget what was refused, once somebody has read it. */
  forget(key: string) {
    this.change((k) => ({ ...k, refused: k.refused.filter((r) => r.press.key !== key) }));
  }
}
