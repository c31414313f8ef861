import { useState } from "react";
import type { OutNow, Round } from "../api/client";
import { useGiveHome } from "../app/shop";
import { Button } from "../ui/Button";
import { pieces } from "./words";
import { useTap } from "./useDaily";

/** Lies says where something is that is out: for now, or as its home from now on. */
export function Lies({ out, round, revision, onDone }: { out: OutNow; round: Round; revision: number; onDone: () => void }) {
  const tap = useTap();
  const give = useGiveHome();
  const [at, setAt] = useState(out.on ?? "");
  const text = at.trim();
  const place = round.places.find(
    (p) => p.id.toLowerCase() === text.toLowerCase() || (p.name !== "" && p.name.toLowerCase() === text.toLowerCase()),
  );
  const item = out.item ?? "";
  const whole = round.items.find((i) => i.id === item)?.count === pieces(out);
  const now = () => {
    if (text === "") return;
    onDone();
    void tap({ what: "laid", items: [{ item, n: pieces(out) }], on: place?.id ?? text }, `${out.name} at ${place?.id ?? text} for now`);
  };
  return (
    <form
      className="flex w-full flex-wrap items-baseline gap-x-4 gap-y-1 py-1"
      onSubmit={(e) => {
        e.preventDefault();
        now();
      }}
    >
      <label className="flex items-baseline gap-2">
        <span className="text-small text-quiet">where</span>
        <input
          autoFocus
          value={at}
          onChange={(e) => setAt(e.target.value)}
          placeholder="an address, or in words"
          className="w-48 border-b border-line bg-transparent placeholder:text-quiet"
        />
      </label>
      <Button type="submit" disabled={text === ""}>
        For now
      </Button>
      {place && whole && (
        <Button
          disabled={give.isPending}
          onClick={() =>
            give.mutate(
              { item, base: revision, spot: { place: place.id } },
              {
                onSuccess: () => {
                  onDone();
                  void tap({ what: "put-back", items: [{ item, n: pieces(out) }] }, `${out.name} lives in ${place.id}`);
                },
              },
            )
          }
        >
          It lives in {place.id} from now on
        </Button>
      )}
    </form>
  );
}
