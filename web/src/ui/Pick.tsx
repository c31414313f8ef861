import { ChevronDown } from "lucide-react";
import { Select } from "radix-ui";

interface PickProps {
  label: string;
  value: string;
  choices: { value: string; name: string }[];
  onPick: (value: string) => void;
}

/** none stands for the empty choice, which a list may not have. */
const none = "-";

/** Pick chooses one of a list of words. */
export function Pick({ label, value, choices, onPick }: PickProps) {
  return (
    <Select.Root value={value || none} onValueChange={(v) => onPick(v === none ? "" : v)}>
      <Select.Trigger
        aria-label={label}
        className="flex min-w-0 items-center gap-1 truncate border-b border-line px-1 py-0.5 text-body font-semibold hover:text-blue"
      >
        <Select.Value>{choices.find((c) => c.value === value)?.name ?? value}</Select.Value>
        <Select.Icon>
          <ChevronDown size={13} />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content position="popper" className="z-50 max-h-85 overflow-y-auto border border-ink bg-sheet text-ink">
          <Select.Viewport>
            {choices.map((c) => (
              <Select.Item
                key={c.value}
                value={c.value || none}
                className="cursor-pointer px-3 py-1 text-body outline-none data-[highlighted]:bg-ink data-[highlighted]:text-paper data-[state=checked]:font-bold"
              >
                <Select.ItemText>{c.name}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
