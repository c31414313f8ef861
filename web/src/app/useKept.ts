import { useCallback, useState, type SetStateAction } from "react";
import { mine } from "../api/base";
import { keep } from "./stored";

const name = (key: string) => mine(`kept ${key}`);

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
        keep(() => sessionStorage, name(key), JSON.stringify(now));
        return now;
      }),
    [key],
  );
  return [value, set];
}
