import { Part } from "../sheet/Sheet";
import { Labelled } from "../ui/Labelled";
import { Tickbox } from "../ui/Tickbox";
import { TypedIn } from "../ui/TypedIn";
import { fixed } from "../units";
import { cell, head } from "./cells";
import { useSetLamp, useSetRoom, type Supplied } from "./useSupply";

/** Light is how bright it is where one works, and what one lamp more or elsewhere brings. */
export function Light({
  room,
  area,
  revision,
  onChoose,
}: {
  room: Supplied;
  area: string;
  revision: number;
  onChoose: (id: string) => void;
}) {
  const lamp = useSetLamp(area);
  const paint = useSetRoom(area);
  return (
    <>
      <Part title="Light where one works, lx">
        <table className="w-full border-collapse" data-testid="lit">
          <thead>
            <tr>
              <th className={head + " pl-0! text-left!"}></th>
              <th className={head}>wanted</th>
              <th className={head}>evening</th>
              <th className={head}>by day</th>
              <th className={head + " text-left!"}></th>
            </tr>
          </thead>
          <tbody>
            {room.lit.map((l) => (
              <tr key={l.station}>
                <td className="border-b border-line py-1">
                  <button type="button" className="text-left hover:text-blue" onClick={() => onChoose(l.station)}>
                    {l.name}
                  </button>
                </td>
                <td className={cell}>{fixed(l.wants, 0)}</td>
                <td className={cell + (l.evening < l.wants ? " text-red" : "")}>{fixed(l.evening, 0)}</td>
                <td className={cell}>{fixed(l.evening + l.sky, 0)}</td>
                <td className={cell + " text-left! text-small text-quiet"}>
                  {[
                    l.behind ? "from behind: one's own shadow" : "",
                    l.hand ? "from the working hand's side" : "",
                    l.shaded > 0 ? `${l.shaded} shaded` : "",
                  ]
                    .filter(Boolean)
                    .join(", ")}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {room.lamp && (
          <p className="m-0 mt-1" data-testid="new-lamp">
            One lamp more brings most where it is dashed on the plan: {fixed(room.lamp.gain, 0)} lx at {room.lamp.for}
            {room.lamp.fewer > 0 &&
              `, and ${room.lamp.fewer === 1 ? "one place fewer is" : `${room.lamp.fewer} places fewer are`} too dark`}
            .
          </p>
        )}
        {room.rehang.length > 0 && (
          <div className="mt-1" data-testid="rehang">
            <b>To hang elsewhere, as things stand now</b>
            <ul className="m-0 list-none p-0">
              {room.rehang.map((h) => (
                <li key={h.lamp} className="border-b border-line py-0.5">
                  Lamp {room.lamps.findIndex((x) => x.id === h.lamp) + 1} where it is ringed on the plan: {fixed(h.gain, 0)} lx less missing
                  over all places of work
                  {h.fewer > 0 && `, ${h.fewer === 1 ? "one place fewer" : `${h.fewer} places fewer`} too dark`}
                </li>
              ))}
            </ul>
          </div>
        )}
      </Part>
      <Part title="Lamps and paint">
        {room.lamps.map((x, i) => (
          <Labelled key={x.id} label={`lamp ${i + 1}`} after="lm" width="w-44">
            <TypedIn
              key={x.lumen}
              value={x.lumen > 0 ? String(x.lumen) : ""}
              onDone={(text) => {
                const lumen = Number(text.replace(",", "."));
                if (lumen >= 0) lamp.mutate({ base: revision, id: x.id, lumen });
              }}
              onTyped={lamp.reset}
              className="w-full border-b border-line text-right"
            />
          </Labelled>
        ))}
        {room.lamps.length === 0 && <p className="m-0 text-quiet">No lamp is marked: enter them under Survey, above.</p>}
        <Tickbox on={room.said.pale} disabled={paint.isPending} onChange={(pale) => paint.mutate({ base: revision, body: { pale } })}>
          walls and ceiling are painted pale
        </Tickbox>
        {room.paint > 0 && <p className="m-0 text-small text-quiet">Pale paint would bring {fixed(room.paint, 0)} lx more everywhere.</p>}
      </Part>
    </>
  );
}
