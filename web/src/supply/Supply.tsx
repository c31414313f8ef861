import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { api, keys, unwrap, type Round } from "../api/client";
import { useKept } from "../app/useKept";
import { usePhone } from "../app/usePhone";
import { Choices } from "../ui/Choices";
import { Empty } from "../ui/Empty";
import { Pick } from "../ui/Pick";
import { Dust } from "./Extraction";
import { Light } from "./Light";
import { Machine } from "./Machine";
import { Mind } from "./Mind";
import { Noise } from "./Noise";
import { Pipes } from "./Pipes";
import { Power } from "./Power";
import { SupplyPlan, type Shown } from "./SupplyPlan";
import { Part } from "../sheet/Sheet";
import { useSupply, type Supplied } from "./useSupply";

/** Supply is what a room gives and where it reaches: power, extraction, light, air, noise. */
export default function Supply({ round, revision }: { round: Round; revision: number }) {
  const phone = usePhone();
  const areas = [...new Map(round.elevations.filter((e) => !e.middle).map((e) => [e.area, e.area])).values()];
  const [area, setArea] = useKept("supply area", "");
  const [mode, setMode] = useKept("supply mode", "");
  const [shown, setShown] = useKept<Shown>("supply shown", "power");
  const [chosen, setChosen] = useState("");
  const [warm, setWarm] = useKept<[number, number]>("supply warm", [0, 15]);
  const here = areas.includes(area) ? area : "";
  const room = useSupply(here, mode, revision, warm);
  const r = room.data;
  const modes = useQuery({ queryKey: keys.modes(revision), queryFn: async () => unwrap(await api.GET("/api/v1/modes", {})) }).data ?? [];
  if (room.error && mode !== "") setMode(""); // it is gone
  if (!r) return <p className="p-4 text-quiet">{room.error ? room.error.message : "Working out what the room gives …"}</p>;
  const station = r.stations.find((s) => s.id === chosen);
  return (
    <div
      className="round-scroll h-full overflow-y-auto px-4 py-3 text-body"
      tabIndex={0}
      role="region"
      aria-label="Supply"
      data-testid="supply"
    >
      <div className={phone ? "" : "grid grid-cols-[minmax(0,1fr)_minmax(0,36rem)] gap-8"}>
        <div>
          <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
            <Choices
              as="words"
              label="What to see"
              value={shown}
              choices={[
                { value: "power", name: "Power" },
                { value: "dust", name: "Extraction" },
                { value: "light", name: "Light" },
                { value: "noise", name: "Noise" },
                { value: "pipes", name: "Pipes and warmth" },
              ]}
              onPick={setShown}
              className="flex flex-wrap gap-x-3"
            />
            {areas.length > 1 && (
              <Pick
                label="Area"
                value={areas.includes(area) ? area : (areas[0] ?? "")}
                choices={areas.map((a) => ({ value: a, name: a }))}
                onPick={setArea}
              />
            )}
            {modes.length > 0 && (
              <Pick
                label="Arrangement of the floor"
                value={mode}
                choices={[{ value: "", name: "as it stands" }, ...modes.map((m) => ({ value: m.id, name: m.name }))]}
                onPick={setMode}
              />
            )}
          </div>
          {r.plan.stations.length === 0 ? (
            <Empty title="No machine stands here yet">Put benches and machines on the floor; then you see what reaches them.</Empty>
          ) : (
            <SupplyPlan room={r} shown={shown} chosen={chosen} small={phone} onChoose={setChosen} />
          )}
          {station ? (
            <Machine key={station.id} station={station} room={r} units={round.units} revision={revision} />
          ) : (
            r.plan.stations.length > 0 && (
              <p className="m-0 text-small text-quiet">Press a machine on the plan to say its cord, its air and its noise.</p>
            )
          )}
        </div>
        <div>
          <Mind room={r} onChoose={setChosen} />
          {shown === "power" && <Power room={r} units={round.units} revision={revision} onChoose={setChosen} />}
          {shown === "dust" && <Dust room={r} area={here} units={round.units} revision={revision} onChoose={setChosen} />}
          {shown === "light" && <Light room={r} area={here} revision={revision} onChoose={setChosen} />}
          {shown === "noise" && <Noise room={r} area={here} revision={revision} />}
          {shown === "pipes" && (
            <Pipes room={r} area={here} units={round.units} revision={revision} warm={warm} onWarm={setWarm} onChoose={setChosen} />
          )}
          <Unsure room={r} />
        </div>
      </div>
    </div>
  );
}

/** Unsure is what is missing on record, and what is taken meanwhile. */
function Unsure({ room }: { room: Supplied }) {
  if (room.unsure.length === 0) return null;
  return (
    <Part title="What is taken as usual, or is odd">
      <ul className="m-0 list-none p-0 text-small text-quiet" data-testid="unsure">
        {room.unsure.map((u, i) => (
          <li key={i} className="py-0.5 first-letter:uppercase">
            {u.says}.
          </li>
        ))}
      </ul>
    </Part>
  );
}
