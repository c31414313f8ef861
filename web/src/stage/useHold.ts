import { useEffect, useLayoutEffect, useState } from "react";
import type { Round } from "../api/client";
import { onScreen } from "./onScreen";

/** Held is something on its way over the stage, with what the core says of the spot it is held over. */
export interface Held<W, T, A> {
  what: W;
  /** the pointer on the screen, px */
  at: { x: number; y: number };
  target?: T;
  answer?: A;
}

interface Holding<W, T, A> {
  round: Round;
  /** what is under a spot of the round; nothing where it cannot be put */
  targetOf: (what: W, x: number, z: number) => T | undefined;
  /** the same target is asked about once; what was said of a target with this name is shown until the next answer */
  nameOf: (target: T) => string;
  ask: (what: W, target: T) => Promise<A>;
  onDrop: (what: W, target: T, answer: A) => void;
  /** the next spot worth trying by keyboard, in mm */
  hop: (what: W, x: number, z: number, step: 1 | -1) => { x: number; z: number } | undefined;
  /** brings a spot of the round into sight */
  reveal: (x: number) => void;
  /** it is held at the end of what can be scrolled to */
  onEnd?: (step: 1 | -1) => void;
}

/** A press becomes a drag beyond so many pixels with a mouse; on touch after so many ms without moving, since moving at once is scrolling. */
const threshold = 5;
const longPress = 380;
const slop = 10;

/** Near the edge of the stage it scrolls by itself: within so many px, at most so many px a frame. */
const edge = 56;
const fastest = 16;

/** By keyboard it is moved by steps of mm. */
const small = 10;
const large = 100;

interface Pressed<W> {
  what: W;
  x: number;
  y: number;
  moving: boolean;
  touch: boolean;
  /** it was away from the edges of the stage since it was taken hold of */
  away?: boolean;
  timer?: ReturnType<typeof setTimeout>;
}

/**
 * Hold follows something from where it was taken hold of to where it is let go: by mouse, by
 * touch after a long press, or by keys. Esc and a second finger put it back.
 */
class Hold<W, T, A> {
  private held: Held<W, T, A> | undefined;
  private pressed: Pressed<W> | undefined;
  /** where it is on the round while it is moved by keys, in mm */
  private keyed: { x: number; z: number } | undefined;
  private wanted: T | undefined;
  private asking = false;
  private letGo = false;

  constructor(
    public h: Holding<W, T, A>,
    private tell: (held: Held<W, T, A> | undefined) => void,
  ) {}

  private show(next: Held<W, T, A> | undefined) {
    const begun = !this.held && next !== undefined;
    this.held = next;
    this.tell(next);
    if (begun) requestAnimationFrame(this.eachFrame);
  }

  private end(dropped: boolean) {
    clearTimeout(this.pressed?.timer);
    const was = this.held;
    this.pressed = undefined;
    this.keyed = undefined;
    this.letGo = false;
    this.wanted = undefined;
    this.show(undefined);
    if (dropped && was?.target && was.answer !== undefined) this.h.onDrop(was.what, was.target, was.answer);
  }

  // One question at a time; while it is out, only the newest spot is remembered. The last one may
  // still be out when it is let go: its answer counts.
  private async ask() {
    if (this.asking) return;
    this.asking = true;
    while (this.wanted && this.held) {
      const t = this.wanted;
      this.wanted = undefined;
      const answer = await this.h.ask(this.held.what, t).catch(() => undefined);
      const at = this.held as Held<W, T, A> | undefined;
      if (at?.target && this.h.nameOf(at.target) === this.h.nameOf(t)) this.show({ ...at, answer });
    }
    this.asking = false;
    if (this.letGo) this.end(true);
  }

  private moveTo(what: W, at: { x: number; y: number }, spot: { x: number; z: number } | undefined) {
    const target = spot && this.h.targetOf(what, spot.x, spot.z);
    const last = this.held;
    const same = target && last?.target && this.h.nameOf(last.target) === this.h.nameOf(target);
    this.show({ what, at, target, answer: same ? last.answer : undefined });
    this.wanted = target;
    if (target) void this.ask();
  }

  private follow(x: number, y: number) {
    const p = this.pressed;
    if (!p?.moving) return;
    const on = onScreen(this.h.round);
    const over = on && x >= on.sight.left && x <= on.sight.right && y >= on.sight.top && y <= on.sight.bottom;
    p.x = x;
    p.y = y;
    this.moveTo(p.what, { x, y }, over ? on.toRound(x, y) : undefined);
  }

  /** press begins with a button or finger that is down. */
  press = (e: React.PointerEvent, what: W) => {
    if (e.button !== 0 || this.keyed || this.held) return;
    const touch = e.pointerType === "touch";
    if (!touch) e.preventDefault(); // or the second drag becomes a native one
    clearTimeout(this.pressed?.timer);
    const p: Pressed<W> = { what, x: e.clientX, y: e.clientY, moving: false, touch };
    this.pressed = p;
    if (touch) {
      p.timer = setTimeout(() => {
        p.moving = true;
        navigator.vibrate?.(12);
        this.follow(p.x, p.y);
      }, longPress);
    }
  };

  /** lift takes hold of something by keyboard, where it is on the round. */
  lift = (what: W, x: number, z: number) => {
    this.keyed = { x, z };
    this.h.reveal(x);
    const at = onScreen(this.h.round)?.toScreen(x, z) ?? { x: window.innerWidth / 2, y: window.innerHeight / 2 };
    this.moveTo(what, at, this.keyed);
  };

  private onMove = (e: PointerEvent) => {
    const p = this.pressed;
    if (!p) return;
    if (!p.moving) {
      const far = Math.hypot(e.clientX - p.x, e.clientY - p.y);
      if (p.touch) {
        if (far > slop) {
          clearTimeout(p.timer); // it is a swipe
          this.pressed = undefined;
        }
        return;
      }
      if (far < threshold) return;
      p.moving = true;
    }
    this.follow(e.clientX, e.clientY);
  };

  private onUp = (e: PointerEvent) => {
    const p = this.pressed;
    if (!p) return;
    if (!p.moving) {
      clearTimeout(p.timer);
      this.pressed = undefined;
      return;
    }
    if (e.type !== "pointerup") return this.end(false);
    this.pressed = undefined;
    this.drop();
  };

  private drop() {
    if (this.asking) this.letGo = true;
    else this.end(true);
  }

  private onSecond = (e: PointerEvent) => {
    if (!e.isPrimary && this.held) this.end(false);
  };

  private onKey = (e: KeyboardEvent) => {
    const k = this.keyed;
    if (!this.held || (!k && e.key !== "Escape")) return;
    if (e.key === "Tab") return this.end(false);
    e.preventDefault();
    e.stopPropagation();
    if (e.key === "Escape" || !k) return this.end(false);
    if (e.key === "Enter") return this.drop();
    const what = this.held.what;
    const to = e.key === "PageDown" || e.key === "PageUp" ? this.h.hop(what, k.x, k.z, e.key === "PageDown" ? 1 : -1) : stepped(k, e);
    if (!to) return;
    this.keyed = to;
    const on = onScreen(this.h.round);
    const at = on?.toScreen(to.x, to.z);
    if (!on || !at || at.x < on.sight.left + edge || at.x > on.sight.right - edge) this.h.reveal(to.x);
    this.moveTo(what, at ?? this.held.at, to);
  };

  // What is scrolled moves away under what is held by keys.
  private onScroll = () => {
    const at = this.keyed && onScreen(this.h.round)?.toScreen(this.keyed.x, this.keyed.z);
    if (at && this.held) this.show({ ...this.held, at });
  };

  // While something is held the finger moves it, not the page; a long press opens no menu.
  private still = (e: Event) => {
    if (this.pressed?.moving || (e.type === "contextmenu" && this.pressed?.touch)) e.preventDefault();
  };

  private eachFrame = () => {
    if (!this.held) return;
    requestAnimationFrame(this.eachFrame);
    const p = this.pressed;
    const on = p?.moving ? onScreen(this.h.round) : undefined;
    if (!p || !on) return;
    if (p.y < on.sight.top || p.y > on.sight.bottom) {
      p.away = true;
      return;
    }
    const [left, right] = [p.x - on.sight.left, on.sight.right - p.x];
    // What was taken hold of near the edge does not run away at once.
    if (left >= edge && right >= edge) p.away = true;
    if (!p.away) return;
    const by = left < edge ? -fastest * (1 - Math.max(0, left) / edge) : right < edge ? fastest * (1 - Math.max(0, right) / edge) : 0;
    const before = on.scroller.scrollLeft;
    on.scroller.scrollLeft += by;
    if (on.scroller.scrollLeft !== before) this.follow(p.x, p.y);
    else if (by !== 0) this.h.onEnd?.(by > 0 ? 1 : -1);
  };

  listen(): () => void {
    const stop = new AbortController();
    const { signal } = stop;
    window.addEventListener("pointermove", this.onMove, { signal });
    window.addEventListener("pointerup", this.onUp, { signal });
    window.addEventListener("pointercancel", this.onUp, { signal });
    window.addEventListener("pointerdown", this.onSecond, { signal, capture: true });
    window.addEventListener("keydown", this.onKey, { signal, capture: true });
    window.addEventListener("scroll", this.onScroll, { signal, capture: true });
    window.addEventListener("touchmove", this.still, { signal, passive: false });
    window.addEventListener("contextmenu", this.still, { signal });
    return () => stop.abort();
  }
}

function stepped(k: { x: number; z: number }, e: KeyboardEvent): { x: number; z: number } | undefined {
  const by = e.shiftKey ? large : small;
  const [dx, dz] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[e.key] ?? [];
  return dx === undefined || dz === undefined ? undefined : { x: Math.max(0, k.x + dx), z: Math.max(0, k.z + dz) };
}

/** useHold holds something over the stage at a time; press and lift stay the same functions. */
export function useHold<W, T, A>(h: Holding<W, T, A>) {
  const [held, setHeld] = useState<Held<W, T, A>>();
  const [hold] = useState(() => new Hold(h, setHeld));
  useLayoutEffect(() => {
    hold.h = h;
  });
  useEffect(() => hold.listen(), [hold]);
  return { held, press: hold.press, lift: hold.lift };
}
