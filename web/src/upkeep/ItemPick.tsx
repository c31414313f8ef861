import { useId } from "react";
import type { Round } from "../api/client";

/** named finds the thing of a name as typed. */
export const named = (round: Round, text: string) =>
  round.items.find((i) => i.name.toLowerCase() === text.trim().toLowerCase() || i.id === text.trim());

/** ItemPick names a thing of the list; names are offered while one types. */
export function ItemPick({
  round,
  label,
  value,
  onChange,
}: {
  round: Round;
  label: string;
  value: string;
  onChange: (text: string) => void;
}) {
  const id = useId();
  return (
    <>
      <input
        aria-label={label}
        placeholder={label}
        list={id}
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className={`w-56 max-w-full border-b bg-transparent px-1 placeholder:text-quiet ${value !== "" && !named(round, value) ? "border-red" : "border-line"}`}
      />
      <datalist id={id}>
        {round.items.map((i) => (
          <option key={i.id} value={i.name} />
        ))}
      </datalist>
    </>
  );
}
