import { useState } from "react";

interface Props {
  /** what stands in the field as long as nothing is typed */
  value: string;
  /** why what was typed was refused */
  why?: string;
  /** what was typed is done: the field was left, or Enter was pressed */
  onDone: (text: string) => void;
  /** it is typed on: a refusal no longer holds */
  onTyped: () => void;
  className: string;
}

/** TypedIn is a field whose text is sent when it is done; what is refused stays in it with the reason. Esc brings back what was there. */
export function TypedIn({ value, why, onDone, onTyped, className }: Props) {
  const [text, setText] = useState(value);
  const send = () => text !== value && onDone(text);
  const type = (next: string) => {
    setText(next);
    onTyped();
  };
  return (
    <span className="min-w-0 flex-1">
      <input
        value={text}
        aria-invalid={why !== undefined || undefined}
        onChange={(e) => type(e.target.value)}
        onBlur={send}
        onKeyDown={(e) => {
          if (e.key === "Enter") send();
          if (e.key === "Escape") {
            e.stopPropagation();
            type(value);
          }
        }}
        className={`w-full bg-transparent px-1 ${why === undefined ? "" : "border-red text-red"} ${className}`}
      />
      {why !== undefined && (
        <span role="alert" className="block text-small text-red">
          {why}
        </span>
      )}
    </span>
  );
}
