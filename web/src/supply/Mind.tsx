import { useState } from "react";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import type { Supplied } from "./useSupply";

/** Mind is what is short, too much or in the way, with what to do. */
export function Mind({ room, onChoose }: { room: Supplied; onChoose: (id: string) => void }) {
  const [all, setAll] = useState(false);
  if (room.cautions.length === 0) return <p className="m-0">Nothing is short, too much or in the way, as far as it is on record.</p>;
  const list = all ? room.cautions : room.cautions.slice(0, 5);
  return (
    <Part title={room.cautions.length === 1 ? "One thing to mind" : `${room.cautions.length} things to mind`}>
      <ul className="m-0 list-none p-0" data-testid="mind">
        {list.map((c, i) => (
          <li key={i} className="border-b border-line py-1">
            <button type="button" className="text-left hover:text-blue" onClick={() => onChoose(c.on)}>
              <span className="block first-letter:uppercase">{c.says}.</span>
              <span className="block text-small text-quiet first-letter:uppercase">{c.do}.</span>
            </button>
          </li>
        ))}
      </ul>
      {room.cautions.length > 5 && <Button onClick={() => setAll(!all)}>{all ? "Only the gravest" : "All of them"}</Button>}
    </Part>
  );
}
