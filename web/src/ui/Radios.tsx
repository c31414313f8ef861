import { RadioGroup } from "radix-ui";

/** Radios choose one of a few that are all in sight; the label is beside them. */
export function Radios<V extends string>({
  label,
  value,
  choices,
  onPick,
}: {
  label: string;
  value: V;
  choices: readonly { value: V; name: string }[];
  onPick: (value: V) => void;
}) {
  return (
    <RadioGroup.Root aria-label={label} value={value} onValueChange={(v) => onPick(v as V)} className="inline-flex flex-wrap gap-x-4">
      {choices.map((c) => (
        <label key={c.value} className="inline-flex items-center gap-1.5 thumb:min-h-11">
          <RadioGroup.Item
            value={c.value}
            aria-label={c.name}
            className="inline-flex h-4 w-4 items-center justify-center rounded-full border border-ink bg-paper thumb:h-6 thumb:w-6"
          >
            <RadioGroup.Indicator className="block h-2 w-2 rounded-full bg-blue" />
          </RadioGroup.Item>
          {c.name}
        </label>
      ))}
    </RadioGroup.Root>
  );
}
