import { Toggle } from "radix-ui";
import type { ReactNode } from "react";

/** OnOff is one word that is on or off, beside Choices in a strip. */
export function OnOff({
  on,
  onChange,
  label,
  children,
}: {
  on: boolean;
  onChange: (on: boolean) => void;
  label?: string;
  children: ReactNode;
}) {
  return (
    <Toggle.Root
      pressed={on}
      onPressedChange={onChange}
      aria-label={label}
      className="cursor-pointer px-2 py-0.5 text-small whitespace-nowrap hover:bg-paper data-[state=on]:bg-ink data-[state=on]:text-paper thumb:min-h-11 thumb:px-3"
    >
      {children}
    </Toggle.Root>
  );
}
