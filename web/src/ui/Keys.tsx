import { Dialog } from "radix-ui";

const keysOf: [string, string][] = [
  ["/", "find a thing or a place"],
  ["[  ]", "one wall to the left, to the right"],
  ["1 – 5", "lens: order, uses, free space, load, fill; again to take it off"],
  ["Enter", "in the survey: to the next number that is missing"],
  ["s", "show studs"],
  [".", "as it stands, or the plan"],
  ["f", "fit: look for better homes"],
  ["Enter", "give the chosen thing its best free spot"],
  ["← →", "in the round or the tray: from thing to thing"],
  ["Delete", "take the chosen thing's home away"],
  ["Space", "in the list: choose the row; Shift and an arrow: several"],
  ["Ctrl d", "in the list: fill down"],
  ["u, Ctrl z", "undo"],
  ["Shift u", "do again"],
  ["l", "lamp on, lamp off"],
  ["Esc", "choose nothing"],
  ["?", "these keys"],
];

/** Keys lists what can be done from the keyboard. */
export default function Keys({ open, setOpen }: { open: boolean; setOpen: (on: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content aria-describedby={undefined} className="fixed top-1/2 left-1/2 z-50 w-[430px] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-5 text-ink">
          <Dialog.Title className="mb-2 text-lg font-bold">Keys</Dialog.Title>
          <dl className="m-0 grid grid-cols-[90px_1fr] gap-y-1">
            {keysOf.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-bold">{key}</dt>
                <dd className="m-0">{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="mt-4 bg-blue px-3 py-1.5 font-bold text-sheet">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
