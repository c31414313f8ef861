import { Check } from "lucide-react";
import { Checkbox } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  on: boolean;
  onChange: (on: boolean) => void;
  disabled?: boolean;
  /** for one without words beside it */
  label?: string;
  children?: ReactNode;
}

/** Tickbox says yes or no to the words beside it. */
export function Tickbox({ on, onChange, disabled, label, children }: Props) {
  const box = (
    <Checkbox.Root
      checked={on}
      onCheckedChange={(v) => onChange(v === true)}
      disabled={disabled}
      aria-label={label}
      className="inline-flex h-4 w-4 shrink-0 items-center justify-center border border-ink bg-paper disabled:opacity-60 data-[state=checked]:bg-blue data-[state=checked]:text-sheet thumb:h-6 thumb:min-h-6! thumb:w-6"
    >
      <Checkbox.Indicator>
        <Check size={13} strokeWidth={3} aria-hidden />
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
  if (!children) return box;
  return (
    <label className="flex items-center gap-2 py-px thumb:min-h-11">
      {box}
      <span className="min-w-0">{children}</span>
    </label>
  );
}
