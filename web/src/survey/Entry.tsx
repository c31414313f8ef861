import clsx from "clsx";
import { ToggleGroup } from "radix-ui";
import { useId, useLayoutEffect, useRef, useState } from "react";
import type { Field } from "../api/client";
import { Pick } from "../ui/Pick";
import { useNotes } from "./useSurvey";

/** next goes to the next number that is missing in the notes, else to the line that adds something. */
export function next(from: HTMLElement) {
  const book = from.closest("[data-book]");
  if (!book) return;
  const all = [...book.querySelectorAll<HTMLInputElement>("input[data-path]")];
  const rest = all.slice(all.indexOf(from as HTMLInputElement) + 1);
  const to = rest.find((i) => i.dataset.missing === "yes") ?? book.querySelector<HTMLInputElement>("input[data-add]") ?? rest[0];
  to?.focus();
}

interface EntryProps {
  field: Field;
  /** nothing need be typed here: it follows from the rest */
  follows?: boolean;
  /** what was typed before the field was there */
  seed?: string;
  wide?: boolean;
  label?: string;
  /** the label above the number, for rows of them */
  above?: boolean;
  /** sends to another field than the one shown */
  path?: string;
}

/** Entry is one line of the notes: a label and what was measured, in any unit. */
export function Entry({ field, follows, seed, wide, label, above, path = field.path }: EntryProps) {
  const { drafts, enter, forget, setAim } = useNotes();
  const draft = drafts[path];
  const [typed, setTyped] = useState<string | undefined>(seed || undefined);
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  const settled = useRef(true);
  const text = typed ?? draft?.text ?? field.text;
  const missing = field.length && !follows && (field.assumed || field.text === "");

  // What was entered elsewhere may change this value under the cursor: typing still replaces it.
  useLayoutEffect(() => {
    if (typed === undefined && document.activeElement === input.current) input.current?.select();
  }, [field.text, typed]);

  const commit = async (andNext: boolean) => {
    const value = (typed ?? draft?.text ?? field.text).trim();
    settled.current = true;
    if (andNext && input.current) next(input.current);
    const same = value === field.text && !draft;
    // Enter on an assumed value says: it is so.
    if (same && !(andNext && field.assumed && value !== "")) {
      setTyped(undefined);
      return;
    }
    const taken = await enter(path, value);
    setTyped(undefined);
    // Refused: go back to the field unless something was typed in the next one already.
    const now = document.activeElement;
    if (taken.refused && input.current && andNext && now instanceof HTMLInputElement && now.dataset.typed !== "yes") input.current.focus();
  };

  return (
    <div className={clsx("min-w-0", wide && "col-span-2")}>
      <div className={above ? "flex flex-col" : "flex items-baseline gap-2"}>
        <label htmlFor={id} className={clsx("narrow text-fine text-quiet", above ? "truncate" : "shrink-0")}>
          {label ?? field.label}
        </label>
        <input
          ref={input}
          id={id}
          data-path={path}
          data-missing={missing ? "yes" : "no"}
          data-typed={typed !== undefined ? "yes" : "no"}
          value={text}
          placeholder={field.shown && `${field.shown} ${follows ? "follows" : "assumed"}`}
          aria-invalid={draft ? true : undefined}
          aria-describedby={draft ? `${id}-why` : undefined}
          autoComplete="off"
          spellCheck={false}
          onFocus={(e) => {
            setAim(path);
            if (seed === undefined || typed === undefined) e.currentTarget.select();
          }}
          onChange={(e) => {
            settled.current = false;
            setTyped(e.target.value);
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter") {
              e.preventDefault();
              void commit(true);
            } else if (e.key === "Escape") {
              e.stopPropagation();
              setTyped(undefined);
              forget(path);
            }
          }}
          onBlur={() => {
            if (!settled.current) void commit(false);
          }}
          className={clsx(
            "w-full min-w-0 border-0 border-b bg-transparent px-1 py-0.5 text-right text-lead outline-offset-1 placeholder:text-small placeholder:text-quiet placeholder:italic",
            draft ? "border-red text-red" : missing ? "border-dashed border-ink" : "border-line",
            field.assumed && typed === undefined && !draft ? "text-quiet italic" : "font-semibold",
          )}
        />
      </div>
      {draft && (
        <p id={`${id}-why`} role="alert" className="mt-0.5 text-fine leading-tight text-red">
          {draft.why}
        </p>
      )}
    </div>
  );
}

/** Choice is one of a few words: side by side when they are three at most, else a list. */
export function Choice({
  field,
  names = {},
  wide,
  above,
}: {
  field: Field;
  names?: Record<string, string>;
  wide?: boolean;
  above?: boolean;
}) {
  const { enter, drafts } = useNotes();
  const say = (c: string) => names[c] ?? (c === "" ? "not known yet" : c.replaceAll("-", " "));
  const draft = drafts[field.path];
  const pick = (c: string) => void enter(field.path, c);
  return (
    <div className={clsx("min-w-0", wide && "col-span-2")} data-choice={field.path}>
      <div className={above ? "flex flex-col items-start" : "flex items-baseline justify-between gap-2"}>
        <span className="narrow shrink-0 text-fine text-quiet">{field.label}</span>
        {field.choices.length <= 3 && !field.choices.includes("") ? (
          <ToggleGroup.Root
            type="single"
            value={field.text}
            onValueChange={(c) => c && pick(c)}
            aria-label={field.label}
            className="flex border-b border-line"
          >
            {field.choices.map((c) => (
              <ToggleGroup.Item
                key={c}
                value={c}
                className="px-1.5 py-0.5 text-small hover:text-blue data-[state=on]:bg-ink data-[state=on]:font-semibold data-[state=on]:text-paper"
              >
                {say(c)}
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
        ) : (
          <Pick label={field.label} value={field.text} choices={field.choices.map((c) => ({ value: c, name: say(c) }))} onPick={pick} />
        )}
      </div>
      {draft && (
        <p role="alert" className="mt-0.5 text-fine leading-tight text-red">
          {draft.why}
        </p>
      )}
    </div>
  );
}

/** Several are any of a few words at once; the field keeps them joined by commas. */
export function Several({ field }: { field: Field }) {
  const { enter } = useNotes();
  const on = field.text === "" ? [] : field.text.split(",");
  return (
    <div className="col-span-2 flex items-baseline justify-between gap-2" data-choice={field.path}>
      <span className="narrow text-fine text-quiet">{field.label}</span>
      <ToggleGroup.Root
        type="multiple"
        value={on}
        onValueChange={(v) => void enter(field.path, field.choices.filter((c) => v.includes(c)).join(","))}
        aria-label={field.label}
        className="flex border-b border-line"
      >
        {field.choices.map((c) => (
          <ToggleGroup.Item
            key={c}
            value={c}
            className="px-1.5 py-0.5 text-small hover:text-blue data-[state=on]:bg-ink data-[state=on]:font-semibold data-[state=on]:text-paper"
          >
            {c}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
