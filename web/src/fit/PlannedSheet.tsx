import type { Item, Round } from "../api/client";
import { seconds } from "../units";
import { Acts, Part, Row, Sheet } from "../sheet/Sheet";
import { Button } from "../ui/Button";

/** PlannedSheet compares one thing in the plan with where it is now. */
export default function PlannedSheet({ before, after, item, onBack }: { before: Round; after: Round; item: Item; onBack: () => void }) {
  const old = before.items.find((i) => i.id === item.id);
  const name = (r: Round, id: string | undefined) => r.places.find((p) => p.id === id)?.name ?? "no home yet";
  return (
    <Sheet onClose={onBack} live title={item.name} address={item.place || "no home"} sub="in the plan">
      <Part title="As it stands">
        <p>{name(before, old?.place)}</p>
        <Row label={old?.place || "no home"} value={`${seconds(old?.seconds ?? 0)} a week`} />
      </Part>
      <Part title="In the plan">
        <p>{name(after, item.place)}</p>
        <Row strong label={item.place || "no home"} value={`${seconds(item.seconds)} a week`} />
        <Row label="order" value={item.order > 0 ? `${item.order} of 4` : "none"} />
      </Part>
      <Acts>
        <Button kind="main" onClick={onBack}>
          Back to the plan
        </Button>
      </Acts>
    </Sheet>
  );
}
