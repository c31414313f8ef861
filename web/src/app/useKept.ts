import { useCallback, useState, type SetStateAction } from "react";

const name = (key: string) => `kept ${key}`;

function read<T>(key: string, first: T): T {
  try {
    const text = sessionStorage.getItem(name(key));
    return text === null ? first : (JSON.parse(text) as T);
  } catch {
    return first;
  }
}

/** useKept is useState of what somebody is in the middle of: it outlives another screen, a reload, and a restart of the server, in this window. */
export function useKept<T>(key: string, first: T): [T, (next: SetStateAction<T>) => void] {
  const [value, setValue] = useState<T>(() => read(key, first));
  const set = useCallback(
    (next: SetStateAction<T>) =>
      setValue((old) => {
        const now = typeof next === "function" ? (next as (old: T) => T)(old) : next;
        try {
          sessionStorage.setItem(name(key), JSON.stringify(now));
        } catch {
          // The browser keeps nothing more, or nothing at all: then it lasts as long as the page.
        }
        return now;
      }),
    [key],
  );
  return [value, set];
}
