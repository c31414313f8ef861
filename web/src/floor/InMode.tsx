import type { FloorLayout, FloorShape, Station } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Choices } from "../ui/Choices";
import { useMakeRoom, useSetSpot, type Spot } from "./useFloor";

/** InMode is what can be said of something in an arrangement: where it is there, or that it is out of the way. */
export function InMode({
  shape,
  station,
  layout,
  revision,
}: {
  shape: FloorShape;
  station: Station | undefined;
  layout: FloorLayout;
  revision: number;
}) {
  const set = useSetSpot();
  const room = useMakeRoom();
  const can: { value: NonNullable<Spot["state"]>; name: string }[] = [{ value: "stands", name: "stands" }];
  if (station?.mobility === "folds") can.push({ value: "folded", name: "folded" });
  if (station?.mobility === "hangs") can.push({ value: "hoisted", name: "hoisted" });
  if (!station || station.mobility === "rolls") can.push({ value: "outdoors", name: "outdoors while dry" });
  can.push({ value: "away", name: "away" });
  const put = (to: Spot | undefined) => set.mutate({ base: revision, mode: layout.mode, thing: shape.id, to });
  const at: Spot = { floor: [shape.x, shape.y], rot: shape.rot };
  return (
    <Part title={`While it is ${layout.name}`}>
      {shape.movable ? (
        <>
          <Choices
            as="words"
            label={`${shape.name} in ${layout.name}`}
            value={shape.state}
            choices={can}
            onPick={(state) => put(state === "stands" ? at : { state })}
          />
          <Button disabled={room.isPending} onClick={() => room.mutate({ base: revision, mode: layout.mode, thing: shape.id })}>
            Find it a spot
          </Button>
          {shape.own && <Button onClick={() => put(undefined)}>As it stands otherwise</Button>}
          {shape.state === "stands" && <p className="m-0 text-small text-quiet">Drag it on the plan, or use the arrows and r.</p>}
        </>
      ) : (
        <p className="m-0 text-small text-quiet">
          It is fixed: it stands there in every arrangement. Say that it rolls or folds to move it.
        </p>
      )}
    </Part>
  );
}
