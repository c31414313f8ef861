import { Switch as Primitive } from "radix-ui";
import type { ReactNode } from "react";

/** Switch turns something on that stays on. */
export function Switch({ on, onChange, children }: { on: boolean; onChange: (on: boolean) => void; children: ReactNode }) {
  return (
    <label className="flex items-center gap-2 text-body thumb:min-h-11">
      <Primitive.Root
        checked={on}
        onCheckedChange={onChange}
        className="relative h-5 w-9 shrink-0 border border-ink bg-paper data-[state=checked]:bg-blue"
      >
        <Primitive.Thumb className="block h-3.5 w-3.5 translate-x-0.5 bg-ink transition-transform data-[state=checked]:translate-x-4.5 data-[state=checked]:bg-sheet motion-reduce:transition-none" />
      </Primitive.Root>
      {children}
    </label>
  );
}
