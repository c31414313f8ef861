import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";
import { centred, shade } from "./windows";

interface Props {
  title: string;
  children: ReactNode;
  /** what is done when one agrees */
  yes: string;
  /** what is left when one does not */
  no: string;
  onYes: () => void;
  danger?: boolean;
  /** something else that can be done about it */
  or?: ReactNode;
  /** opened by a button that is given, or from outside */
  trigger?: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

/** Ask wants an answer before something is done that cannot be overlooked afterwards. */
export function Ask({ title, children, yes, no, onYes, danger, or, trigger, open, onOpenChange }: Props) {
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>}
      <AlertDialog.Portal>
        <AlertDialog.Overlay className={shade} />
        <AlertDialog.Content className={`${centred} w-[min(27rem,94vw)] overflow-y-auto`}>
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
            {or}
            <AlertDialog.Cancel asChild>
              <Button>{no}</Button>
            </AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
