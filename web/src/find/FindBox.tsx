import { forwardRef, Suspense, useEffect, useId, useState } from "react";
import type { Found, Round } from "../api/client";
import { later } from "../app/later";
import { useQueryClient } from "@tanstack/react-query";
import { useFound } from "./useFound";

/** What is found is drawn by code that comes with the first letter. */
const [Hits, fetchHits] = later(() => import("./Hits"));

interface Props {
  round: Round;
  revision: number;
  onChoose: (f: Found) => void;
}

/** FindBox answers while one types: what it is, its address, and the wall in words. */
export const FindBox = forwardRef<HTMLInputElement, Props>(function FindBox({ round, revision, onChoose }, input) {
  const [q, setQ] = useState("");
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  // What Enter was pressed on before its answer was here: the answer is awaited, since what is
  // still listed belongs to fewer letters.
  const [awaited, setAwaited] = useState("");
  const list = useId();
  const found = useFound(q, revision);
  const hits = q.trim() === "" ? [] : (found.data ?? []);
  const chosen = Math.min(at, hits.length - 1);
  const shown = open && q.trim() !== "";
  const late = found.isPlaceholderData || found.isPending;
  const take = (f: Found | undefined) => {
    if (!f) return;
    onChoose(f);
    setOpen(false);
  };
  // Its code comes with the first press.
  const client = useQueryClient();
  const press = (h: Found) => {
    if (h.kind !== "item" && h.kind !== "kit") return;
    const back = h.kind === "item" && h.home === 0;
    const lent = h.out.find((o) => o.what === "lent");
    const what = !back ? "taken" : lent && h.out.length === 1 ? "returned" : "put-back";
    void import("../daily/press").then((m) =>
      m.press(
        client,
        h.kind === "kit" ? { what, kits: [h.id] } : { what, items: [{ item: h.id, n: 1 }], with: what === "taken" },
        `${h.name} ${back ? "back" : "taken"}`,
      ),
    );
  };
  useEffect(() => {
    if (awaited === "" || awaited !== q || late) return;
    setAwaited("");
    const first = found.data?.[0];
    if (!first) return;
    onChoose(first);
    setOpen(false);
  }, [awaited, q, late, found.data, onChoose]);
  return (
    <div className="relative w-60 shrink-0 max-md:w-full">
      <input
        ref={input}
        role="combobox"
        aria-expanded={shown}
        aria-controls={list}
        aria-autocomplete="list"
        aria-label="Find a thing or a place"
        aria-activedescendant={shown && hits[chosen] ? `${list}-${chosen}` : undefined}
        value={q}
        placeholder="Find a thing or a place"
        spellCheck={false}
        onChange={(e) => {
          setQ(e.target.value.replaceAll("/", "")); // the key that leads here is no part of a name
          setAt(0);
          setAwaited("");
          setOpen(true);
        }}
        onFocus={() => {
          setOpen(true);
          void fetchHits();
        }}
        onBlur={() => {
          setAwaited("");
          setOpen(false);
        }}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            setOpen(true);
            setAt((chosen + (e.key === "ArrowDown" ? 1 : -1) + hits.length) % Math.max(1, hits.length));
          } else if (e.key === "Enter" && e.shiftKey) {
            e.preventDefault();
            const h = hits[Math.max(0, chosen)];
            if (h && !late) press(h);
          } else if (e.key === "Enter") {
            if (late && chosen <= 0) setAwaited(q);
            else take(hits[chosen]);
          } else if (e.key === "Escape") {
            setAwaited("");
            if (shown) setOpen(false);
            else e.currentTarget.blur();
          }
        }}
        className="w-full border border-line bg-sheet px-3 py-1.5 pr-8 placeholder:text-quiet"
      />
      <kbd className="absolute top-1.5 right-3 text-quiet" aria-hidden>
        /
      </kbd>
      <ul
        id={list}
        role="listbox"
        aria-label="Found"
        hidden={!shown}
        className="absolute top-full right-0 z-40 m-0 mt-1 max-h-110 w-105 list-none max-md:left-0 max-md:w-auto overflow-y-auto border border-ink bg-sheet p-0 shadow-[4px_4px_0_var(--line)]"
      >
        {shown && (
          <Suspense>
            <Hits
              hits={hits}
              round={round}
              chosen={chosen}
              none={found.isSuccess}
              list={list}
              onTake={take}
              onPress={press}
              onPoint={setAt}
            />
          </Suspense>
        )}
      </ul>
    </div>
  );
});
