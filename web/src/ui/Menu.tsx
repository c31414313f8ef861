import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

/** Menu opens a short list of what can be done under a word. */
export function Menu({ name, children }: { name: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="flex items-center gap-1 border-b border-line px-1 py-0.5 text-body font-semibold whitespace-nowrap hover:text-blue">
        {name}
        <ChevronDown size={13} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="round-scroll z-50 max-h-130 min-w-50 overflow-y-auto border border-ink bg-sheet py-1 text-ink"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const entry =
  "flex cursor-pointer items-baseline gap-2 px-3 py-1 text-body outline-none data-[highlighted]:bg-ink data-[highlighted]:text-paper";

/** Do is one of the things a menu offers. */
export function Do({ children, onSelect }: { children: ReactNode; onSelect: () => void }) {
  return (
    <DropdownMenu.Item onSelect={onSelect} className={entry}>
      {children}
    </DropdownMenu.Item>
  );
}

/** Get is a file a menu offers. */
export function Get({ children, href }: { children: ReactNode; href: string }) {
  return (
    <DropdownMenu.Item asChild className={entry}>
      <a href={href} download>
        {children}
      </a>
    </DropdownMenu.Item>
  );
}

/** Tick is something a menu turns on and off; the menu stays open. */
export function Tick({
  children,
  on,
  onChange,
  disabled,
}: {
  children: ReactNode;
  on: boolean;
  onChange: (on: boolean) => void;
  disabled?: boolean;
}) {
  return (
    <DropdownMenu.CheckboxItem
      checked={on}
      disabled={disabled}
      onCheckedChange={onChange}
      onSelect={(e) => e.preventDefault()}
      className={`${entry} data-[disabled]:opacity-60`}
    >
      <span className="w-3 shrink-0 font-bold" aria-hidden>
        {on ? "✓" : ""}
      </span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}
