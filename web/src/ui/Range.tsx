import { Slider } from "radix-ui";

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onChange: (value: number) => void;
  /** the value in words */
  says?: string;
}

/** Range sets a figure by sliding; arrow keys move it by a step. */
export function Range({ label, value, min, max, step, onChange, says }: Props) {
  return (
    <Slider.Root
      value={[value]}
      min={min}
      max={max}
      step={step}
      onValueChange={([v]) => v !== undefined && onChange(v)}
      className="relative flex h-5 min-w-20 flex-1 touch-none items-center thumb:h-11"
    >
      <Slider.Track className="relative h-0.5 flex-1 bg-line">
        <Slider.Range className="absolute h-full bg-blue" />
      </Slider.Track>
      <Slider.Thumb aria-label={label} aria-valuetext={says} className="block h-4 w-2 bg-blue thumb:h-7 thumb:w-4" />
    </Slider.Root>
  );
}
