import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useId, useRef, useState } from "react";
import { api, keys, unwrap } from "../api/client";
import { usePhone } from "../app/usePhone";
import { useKept } from "../app/useKept";
import { reason } from "../reason";
import { Chips } from "./Chips";

interface Props {
  /** what the line is about */
  about: "room" | "station" | "place";
  revision: number;
  label: string;
  placeholder: string;
  /** what Enter does, while nothing is typed */
  hint: string;
  /** it is what the screen is for at the moment: it takes the focus, unless a keyboard would then cover a phone */
  first?: boolean;
  /** makes what the line says; what was typed stays when it is refused */
  onEnter: (text: string) => Promise<unknown>;
}

/** NoteLine takes a line about the shop and shows what each piece of it is taken for while it is typed. */
export function NoteLine({ about, revision, label, placeholder, hint, first, onEnter }: Props) {
  const [text, setText] = useKept(`note ${about}`, "");
  const [refused, setRefused] = useState<string>();
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  const phone = usePhone();
  useEffect(() => {
    if (first && !phone) input.current?.focus({ preventScroll: true });
  }, [first, phone]);
  const later = useDeferredValue(text);
  const read = useQuery({
    queryKey: keys.note(about, later, revision),
    queryFn: async () => unwrap(await api.POST("/api/v1/notes/{about}", { params: { path: { about } }, body: { text: later } })),
    enabled: later.trim() !== "",
    placeholderData: keepPreviousData,
  }).data;
  const shown = text.trim() === "" ? undefined : read;

  const send = async () => {
    if (text.trim() === "" || busy) return;
    setBusy(true);
    try {
      await onEnter(text.trim());
      setText("");
      setRefused(undefined);
    } catch (e) {
      setRefused(reason(e));
    }
    setBusy(false);
    input.current?.focus();
  };
  return (
    <div className="flex flex-col gap-1">
      <input
        ref={input}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setRefused(undefined);
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") void send();
          else if (e.key === "Escape") setText("");
        }}
        aria-label={label}
        aria-describedby={id}
        placeholder={placeholder}
        autoComplete="off"
        spellCheck={false}
        data-note={about}
        className="h-10 w-full min-w-0 border border-ink bg-sheet px-3 text-lead placeholder:text-body placeholder:text-quiet"
      />
      <div id={id} className="flex min-h-7.5 flex-wrap items-center gap-x-2 gap-y-1 text-small" aria-live="polite">
        {shown && <Chips chips={shown.chips} />}
        {shown && shown.why !== "" && <span className="text-red">{shown.why}</span>}
        {!shown && <span className="text-quiet">{hint}</span>}
        {refused && (
          <span role="alert" className="font-semibold text-red">
            {refused}
          </span>
        )}
      </div>
    </div>
  );
}
