import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";

/** Hints is round everything that has hints. */
export const Hints = ({ children }: { children: ReactNode }) => <Tooltip.Provider delayDuration={500}>{children}</Tooltip.Provider>;

/** Hint says more of what the pointer is on or the focus is in. What is in it can take the focus. */
export function Hint({ says, children }: { says: ReactNode; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-w-72 border border-ink bg-sheet px-2 py-1 text-small text-ink"
        >
          {says}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
