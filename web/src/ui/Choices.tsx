import { cva, type VariantProps } from "class-variance-authority";
import { ToggleGroup } from "radix-ui";
import type { ReactNode } from "react";

const look = cva("cursor-pointer whitespace-nowrap", {
  variants: {
    as: {
      // one beside the other in a frame, as on the stage
      strip: "px-2 py-0.5 text-small hover:bg-paper data-[state=on]:bg-ink data-[state=on]:text-paper thumb:min-h-11 thumb:px-3",
      // halves of one switch
      halves: "flex-1 px-2 py-1 hover:bg-paper data-[state=on]:bg-blue data-[state=on]:font-bold data-[state=on]:text-sheet thumb:min-h-11",
      // words with a line below the one that is on
      words:
        "border-b-2 border-transparent px-1 text-body hover:border-line data-[state=on]:border-blue data-[state=on]:font-bold data-[state=on]:text-blue thumb:min-h-11",
    },
  },
});

export interface Choice<V extends string> {
  value: V;
  name: ReactNode;
  /** a name for who cannot see it */
  label?: string;
}

interface Props<V extends string> extends VariantProps<typeof look> {
  label: string;
  value: V;
  choices: readonly Choice<V>[];
  onPick: (value: V) => void;
  /** the one that is on can be turned off: what is picked is empty then */
  none?: boolean;
  className?: string;
}

/** Choices are a few ways side by side of which one is on. */
export function Choices<V extends string>({ as, label, value, choices, onPick, none, className }: Props<V>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(v) => (v !== "" || none) && onPick(v as V)}
      className={className ?? (as === "halves" ? "flex border border-line" : "flex items-center")}
    >
      {choices.map((c) => (
        <ToggleGroup.Item key={c.value} value={c.value} aria-label={c.label} className={look({ as })}>
          {c.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
