import { useState } from "react";
import { Part } from "../sheet/Sheet";
import { Labelled } from "../ui/Labelled";
import { Tickbox } from "../ui/Tickbox";
import { distance, fixed, type Units } from "../units";
import { cell, head } from "./cells";
import { useSetRoom, type Supplied } from "./useSupply";

const whats = { air: "compressed air", water: "water", network: "network" } as const;

/** Pipes is what comes by hose, pipe and cable, what is within reach, and how long it takes to get warm. */
export function Pipes({
  room,
  area,
  units,
  revision,
  warm,
  onWarm,
  onChoose,
}: {
  room: Supplied;
  area: string;
  units: Units;
  revision: number;
  /** °C outside and wanted, as asked */
  warm: [number, number];
  onWarm: (w: [number, number]) => void;
  onChoose: (id: string) => void;
}) {
  const set = useSetRoom(area);
  const [cold, setCold] = useState(String(warm[0]));
  const [cosy, setCosy] = useState(String(warm[1]));
  const ask = () => {
    const w: [number, number] = [Number(cold.replace(",", ".")), Number(cosy.replace(",", "."))];
    if (w[0] >= -60 && w[0] <= 60 && w[1] >= 0 && w[1] <= 60) onWarm(w);
  };
  const x = room.warmth;
  return (
    <>
      <Part title="Compressed air, water, network">
        {room.reached.length === 0 ? (
          <p className="m-0 text-quiet">Nothing here wants any. Press a machine on the plan and tick what must get there.</p>
        ) : (
          <table className="w-full border-collapse" data-testid="reached">
            <thead>
              <tr>
                <th className={head + " pl-0! text-left!"}></th>
                <th className={head + " text-left!"}>wants</th>
                <th className={head + " text-left!"}>from</th>
                <th className={head}>far</th>
                <th className={head}>hose</th>
              </tr>
            </thead>
            <tbody>
              {room.reached.map((r) => (
                <tr key={r.station + r.what} className={r.short || r.from === "" ? "text-red" : ""}>
                  <td className="border-b border-line py-1">
                    <button type="button" className="text-left hover:text-blue" onClick={() => onChoose(r.station)}>
                      {r.name}
                    </button>
                  </td>
                  <td className={cell + " text-left!"}>{whats[r.what]}</td>
                  <td className={cell + " text-left!"}>{r.by || "nothing"}</td>
                  <td className={cell}>{r.from ? distance(r.long, units) : "—"}</td>
                  <td className={cell + (r.usual ? " text-quiet italic" : "")}>{r.have > 0 ? distance(r.have, units) : "—"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Part>
      <Part title="Switches, stops, cranks, remotes">
        {room.controls.length === 0 ? (
          <p className="m-0 text-quiet">None is on record. Press a machine on the plan and say where its switch and its stop are.</p>
        ) : (
          <ul className="m-0 list-none p-0" data-testid="controls">
            {room.controls.map((c, i) => (
              <li key={i} className={`flex justify-between gap-3 border-b border-line py-0.5 ${c.out || c.over ? "text-red" : ""}`}>
                <span>
                  {c.name}, {c.kind}
                </span>
                <span className="shrink-0">
                  {c.over
                    ? `${c.over} is between`
                    : `${distance(c.far, units)} from the shoulder, ${distance(c.reach, units)} within reach`}
                </span>
              </li>
            ))}
          </ul>
        )}
      </Part>
      {room.sights.length > 0 && (
        <Part title="In sight">
          <ul className="m-0 list-none p-0" data-testid="sights">
            {room.sights.map((v) => (
              <li key={v.station + v.of} className={`border-b border-line py-0.5 ${v.behind ? "text-red" : ""}`}>
                {v.of} from {v.name}: {v.behind ? `behind ${v.behind}` : "seen"}
              </li>
            ))}
          </ul>
        </Part>
      )}
      <Part title="Warm for a session">
        <form
          className="flex flex-wrap items-baseline gap-x-4 gap-y-1"
          onSubmit={(e) => {
            e.preventDefault();
            ask();
          }}
        >
          <Labelled label="outside" after="°C" width="w-32">
            <input
              value={cold}
              onChange={(e) => setCold(e.target.value)}
              onBlur={ask}
              className="w-full border-b border-line bg-transparent px-1 text-right"
            />
          </Labelled>
          <Labelled label="wanted" after="°C" width="w-32">
            <input
              value={cosy}
              onChange={(e) => setCosy(e.target.value)}
              onBlur={ask}
              className="w-full border-b border-line bg-transparent px-1 text-right"
            />
          </Labelled>
          <Tickbox
            on={room.said.insulated}
            disabled={set.isPending}
            onChange={(insulated) => set.mutate({ base: revision, body: { insulated } })}
          >
            insulated
          </Tickbox>
        </form>
        {x && (
          <p className="m-0 mt-1" data-testid="warmth">
            {x.watts === 0
              ? `No electric heater stands here as a station. ${fixed(x.keeps / 1000, 1)} kW would keep it at ${fixed(x.wanted, 0)} °C.`
              : x.never
                ? `Its heaters give ${fixed(x.watts / 1000, 1)} kW and ${fixed(x.keeps / 1000, 1)} kW are lost: it never gets that warm.`
                : `Switch its heaters on ${fixed(x.minutes, 0)} minutes before, and never leave them alone; ${fixed(x.keeps / 1000, 1)} of their ${fixed(x.watts / 1000, 1)} kW keep it so.`}
          </p>
        )}
        <p className="m-0 mt-1 text-small text-quiet">An estimate, from as cold as outside, without sun and wind.</p>
      </Part>
    </>
  );
}
