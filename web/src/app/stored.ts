import { useSyncExternalStore } from "react";

/** Stored is a choice that this browser remembers, for all its windows. */
export interface Stored<T> {
  get: () => T;
  set: (value: T) => void;
  use: () => T;
}

/** keep puts a text into the browser, as far as it keeps anything; whether it did. */
export function keep(storage: () => Storage, name: string, text: string): boolean {
  try {
    storage().setItem(name, text);
    return true;
  } catch {
    return false; // full, or not allowed: it lasts as long as the page then
  }
}

/** stored keeps a choice in the browser. Where the browser keeps nothing it lasts as long as the page. */
export function stored<T>(name: string, first: T): Stored<T> {
  let text: string | null = null;
  let value = first;
  let lasting: T | undefined; // where nothing can be kept
  const heard = new Set<() => void>();
  const read = (): T => {
    if (lasting !== undefined) return lasting;
    let now: string | null = null;
    try {
      now = localStorage.getItem(name);
    } catch {
      return value;
    }
    if (now === text) return value; // the same object for the same text
    text = now;
    try {
      value = now === null ? first : (JSON.parse(now) as T);
    } catch {
      value = first;
    }
    return value;
  };
  const tell = () => {
    for (const f of heard) f();
  };
  return {
    get: read,
    set: (next) => {
      if (!keep(() => localStorage, name, JSON.stringify(next))) lasting = next;
      tell();
    },
    use: () =>
      useSyncExternalStore((f) => {
        heard.add(f);
        const other = (e: StorageEvent) => e.key === name && f();
        window.addEventListener("storage", other);
        return () => {
          heard.delete(f);
          window.removeEventListener("storage", other);
        };
      }, read),
  };
}
