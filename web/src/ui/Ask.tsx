import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

interface Props {
  title: string;
  children: ReactNode;
  /** what is done when one agrees */
  yes: string;
  /** what is left when one does not */
  no: string;
  onYes: () => void;
  danger?: boolean;
  /** opened by a button that is given, or from outside */
  trigger?: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

/** Ask wants an answer before something is done that cannot be overlooked afterwards. */
export function Ask({ title, children, yes, no, onYes, danger, trigger, open, onOpenChange }: Props) {
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>}
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(27rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-5 text-ink">
          <AlertDialog.Title className="mb-1 text-head font-bold">{title}</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div>{children}</div>
          </AlertDialog.Description>
          <div className="mt-4 flex flex-wrap items-center gap-5">
            <AlertDialog.Action asChild>
              <Button kind={danger ? "danger" : "main"} onClick={onYes}>
                {yes}
              </Button>
            </AlertDialog.Action>
            <AlertDialog.Cancel asChild>
              <Button>{no}</Button>
            </AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
