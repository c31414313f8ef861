import { useEffect, useEffectEvent } from "react";
import { stored } from "./stored";

/** Command is something that can be done: from the keyboard, from the palette, from a button; the key help is made of the same list. */
export interface Command {
  name: string;
  /** as in KeyboardEvent.key, with "Mod " before it for Ctrl or ⌘; several do the same */
  keys?: readonly string[];
  run: () => void;
  /** it makes no sense at the moment */
  off?: boolean;
  /** not in the palette: it is about what the pointer or the focus is on */
  hidden?: boolean;
}

/** Told are keys of a part of a screen, which looks after them itself. */
export interface Told {
  keys: string;
  name: string;
}

const typedInto = "input, select, textarea, [contenteditable=true], [role=dialog], [role=listbox], [role=menu]";

/** keyOf is a key press as commands write it. */
export function keyOf(e: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey">): string {
  const mod = e.ctrlKey || e.metaKey;
  return mod ? `Mod ${e.shiftKey ? "Shift " : ""}${e.key.toLowerCase()}` : e.key;
}

/** written is a key as people read it on their keyboard. */
export function written(key: string, mac = /Mac|iP(hone|ad)/.test(navigator.platform)): string {
  return key
    .split(" ")
    .map((k) => (k === "Mod" ? (mac ? "⌘" : "Ctrl") : k === "Escape" ? "Esc" : /^[A-Z]$/.test(k) ? `Shift ${k.toLowerCase()}` : k))
    .join(" ");
}

/** letters tells whether single letters are keys: who dictates, or types by switch, turns them off. */
const letters = stored("letters", true);

/** useLetters is whether single letters are keys, and the way to say so. */
export function useLetters(): [boolean, (on: boolean) => void] {
  return [letters.use(), letters.set];
}

/** commandOf finds what a key press means; nothing while something is typed, but for keys with Ctrl or ⌘. */
export function commandOf(e: KeyboardEvent, commands: readonly Command[], letters: boolean): Command | undefined {
  const key = keyOf(e);
  if (e.altKey || e.defaultPrevented) return undefined;
  const held = key.startsWith("Mod ");
  if (!held && e.target instanceof HTMLElement && e.target.closest(typedInto)) return undefined;
  if (held && key !== "Mod k" && e.target instanceof HTMLElement && e.target.closest("input, textarea, [contenteditable=true]"))
    return undefined; // the field's own undo
  if (!letters && !held && key.length === 1) return undefined;
  return commands.find((c) => !c.off && c.keys?.includes(key));
}

/** useCommandKeys lets the keys of the commands do what they say. */
export function useCommandKeys(commands: readonly Command[]) {
  const [letters] = useLetters();
  const on = useEffectEvent((e: KeyboardEvent) => {
    const c = commandOf(e, commands, letters);
    if (!c) return;
    // What is on a button or link, Enter presses.
    if (e.key === "Enter" && e.target instanceof HTMLElement && e.target.closest("button, a, [role=option], [role=radio], [role=switch]"))
      return;
    e.preventDefault();
    c.run();
  });
  useEffect(() => {
    const listen = (e: KeyboardEvent) => on(e);
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
