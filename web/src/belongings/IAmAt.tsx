import type { Round } from "../api/client";
import { Pick } from "../ui/Pick";

/** IAmAt says where one stands: what is typed or ticked next lives there. */
export function IAmAt({ places, at, onGo }: { places: Round["places"]; at: string; onGo: (to: string) => void }) {
  if (places.length === 0) return null;
  return (
    <span className="flex shrink-0 items-center gap-1 text-small">
      <span className="text-quiet">I am at</span>
      <Pick
        label="I am at"
        value={at}
        choices={[{ value: "", name: "no place" }, ...places.map((p) => ({ value: p.id, name: p.name ? `${p.id} ${p.name}` : p.id }))]}
        onPick={onGo}
      />
    </span>
  );
}
