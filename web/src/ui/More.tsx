import { ChevronDown, ChevronRight } from "lucide-react";
import { Collapsible } from "radix-ui";
import { useState, type ReactNode } from "react";

/** More is shown when its words are pressed. */
export function More({ title, open: first = false, children }: { title: ReactNode; open?: boolean; children: ReactNode }) {
  const [open, setOpen] = useState(first);
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen} className="mt-1 text-small">
      <Collapsible.Trigger className="flex cursor-pointer items-center gap-1 font-semibold text-blue hover:underline thumb:min-h-11">
        {open ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
