import { ToggleGroup } from "radix-ui";

/** Chips are words one turns on and off, each by itself. */
export function Chips({ label, words, on, onChange }: { label: string; words: string[]; on: string[]; onChange: (on: string[]) => void }) {
  return (
    <ToggleGroup.Root type="multiple" aria-label={label} value={on} onValueChange={onChange} className="flex flex-wrap gap-x-1.5 gap-y-1">
      {words.map((w) => (
        <ToggleGroup.Item
          key={w}
          value={w}
          className="narrow cursor-pointer border border-line px-1.5 text-small leading-[1.65] text-ink hover:border-blue hover:text-blue data-[state=on]:border-blue data-[state=on]:bg-blue data-[state=on]:font-semibold data-[state=on]:text-sheet thumb:min-h-11 thumb:px-3"
        >
          {w}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
