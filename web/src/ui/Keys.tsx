import { Dialog } from "radix-ui";
import { useRef } from "react";
import { useLetters, written, type Command, type Told } from "../app/commands";
import { Switch } from "./Switch";
import { centred, shade } from "./windows";

/** Keys lists what can be done from the keyboard: the commands, and what parts of screens look after themselves. */
export default function Keys({
  open,
  setOpen,
  commands,
  told,
}: {
  open: boolean;
  setOpen: (on: boolean) => void;
  commands: readonly Command[];
  told: readonly Told[];
}) {
  const [letters, setLetters] = useLetters();
  const close = useRef<HTMLButtonElement>(null);
  const rows = [
    ...commands.filter((c) => c.keys).map((c) => ({ keys: (c.keys ?? []).map((k) => written(k)).join(", "), name: c.name })),
    ...told,
  ];
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={shade} />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={(e) => {
            e.preventDefault();
            close.current?.focus();
          }}
          className={`${centred} flex w-[min(720px,94vw)] flex-col`}
        >
          <Dialog.Title className="mb-2 text-lg font-bold">Keys</Dialog.Title>
          <div className="min-h-0 overflow-y-auto" tabIndex={0} role="region" aria-label="List of keys">
            <dl className="m-0 gap-x-8 md:columns-2">
              {rows.map(({ keys, name }) => (
                <div key={keys + name} className="grid break-inside-avoid grid-cols-[104px_1fr] py-0.5">
                  <dt className="font-bold">{keys}</dt>
                  <dd className="m-0">{name}</dd>
                </div>
              ))}
            </dl>
          </div>
          <div className="mt-3 flex flex-wrap items-center justify-between gap-3">
            <Switch on={letters} onChange={setLetters}>
              Single-letter keys
            </Switch>
            <Dialog.Close ref={close} className="bg-blue px-3 py-1.5 font-bold text-sheet">
              Close
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
