import { useState } from "react";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { distance, fixed, length, percent, type Units } from "../units";
import { cell, head } from "./cells";
import { Batteries } from "./Batteries";
import { Strips } from "./Strips";
import { useSetRunning, useSetSupply, type Supplied } from "./useSupply";

/** Power is what runs together on which circuit, and whether the cords get there. */
export function Power({
  room,
  units,
  revision,
  onChoose,
}: {
  room: Supplied;
  units: Units;
  revision: number;
  onChoose: (id: string) => void;
}) {
  const set = useSetSupply();
  return (
    <>
      <Part title="What runs together, by circuit">
        {room.loads.length === 0 ? (
          <p className="m-0 text-quiet">
            Say on which circuit each outlet is, under Survey, and what machines draw: then their sums are here.
          </p>
        ) : (
          <table className="w-full border-collapse" data-testid="loads">
            <thead>
              <tr>
                <th className={head + " pl-0! text-left!"}>circuit</th>
                <th className={head + " text-left!"}>for</th>
                <th className={head}>A</th>
                <th className={head}>of the breaker</th>
              </tr>
            </thead>
            <tbody>
              {room.loads.slice(0, 10).map((l, i) => (
                <tr key={i} className={l.over ? "text-red" : ""}>
                  <td className="border-b border-line py-1 align-top">{l.circuit}</td>
                  <td className={cell + " text-left! whitespace-normal"}>
                    {l.names.join(", ")}
                    {l.advice && <span className="block text-small first-letter:uppercase">{l.advice}.</span>}
                    {l.move && (
                      <Button
                        disabled={set.isPending}
                        onClick={() => l.move && set.mutate({ base: revision, id: l.move.station, body: { outlet: l.move.outlet } })}
                      >
                        Plug it in there
                      </Button>
                    )}
                  </td>
                  <td className={cell + " align-top"}>{fixed(l.amps, 1)}</td>
                  <td className={cell + " align-top"}>{l.rated > 0 ? percent(l.amps / l.rated) : "not known"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <Running room={room} revision={revision} />
        <Strips room={room} units={units} revision={revision} />
      </Part>
      {room.plugs.length > 0 && (
        <Part title="Cords">
          <table className="w-full border-collapse" data-testid="plugs">
            <thead>
              <tr>
                <th className={head + " pl-0! text-left!"}>machine</th>
                <th className={head + " text-left!"}>outlet</th>
                <th className={head}>wants</th>
                <th className={head}>along walls</th>
                <th className={head}>has</th>
              </tr>
            </thead>
            <tbody>
              {room.plugs.map((p) => (
                <tr key={p.station} className={p.outlet === "" || p.need > p.have + 50 ? "text-red" : ""}>
                  <td className="border-b border-line py-1">
                    <button type="button" className="text-left hover:text-blue" onClick={() => onChoose(p.station)}>
                      {p.name}
                    </button>
                  </td>
                  <td className={cell + " text-left!"}>
                    <Pick
                      label={`Outlet of ${p.name}`}
                      value={
                        room.stations.find((x) => x.id === p.station)?.outlet && (p.chosen || p.strip)
                          ? (room.all_strips.find((x) => x.name === p.strip)?.id ?? p.outlet)
                          : ""
                      }
                      choices={[
                        { value: "", name: p.chosen ? "the nearest" : p.called || "none" },
                        ...room.plan.outlets.map((o) => ({ value: o.id, name: o.name })),
                        ...room.all_strips.map((x) => ({ value: x.id, name: x.name })),
                      ]}
                      onPick={(outlet) => set.mutate({ base: revision, id: p.station, body: { outlet } })}
                    />
                  </td>
                  <td className={cell}>{p.outlet ? distance(p.need, units) : "—"}</td>
                  <td className={cell}>{p.outlet ? distance(p.wall, units) : "—"}</td>
                  <td className={cell + (p.usual ? " text-quiet italic" : "")}>{distance(p.have, units)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="m-0 mt-1 text-small text-quiet">
            Slanted: a usual cord, nobody measured it. Along the floor round what stands there, with what goes down from the outlet and up
            to the machine.
          </p>
        </Part>
      )}
      <Batteries room={room} revision={revision} />
      {room.wanted.length > 0 && (
        <Part title="To hand to an electrician">
          <ul className="m-0 list-none p-0">
            {room.wanted.map((x, i) => (
              <li key={i} className="border-b border-line py-0.5">
                {x.what === "outlet" ? "An outlet" : "A circuit"} for {x.for}, {fixed(x.amps, 1)} A, by wall {x.wall} about{" "}
                {length(x.x, units)} from its left end
              </li>
            ))}
          </ul>
          <p className="m-0 mt-1 text-small text-quiet">What is wanted, not how it is made: that is the electrician&apos;s.</p>
        </Part>
      )}
    </>
  );
}

/** Running are the machines that run at the same time, as somebody says. */
function Running({ room, revision }: { room: Supplied; revision: number }) {
  const set = useSetRunning();
  const [name, setName] = useState("");
  const [ids, setIds] = useState<string[]>([]);
  const drawing = room.stations.filter((s) => (s.amps ?? 0) > 0);
  return (
    <div className="mt-2">
      {room.running.map((x, i) => (
        <p key={i} className="m-0 flex flex-wrap items-baseline gap-x-3">
          <b>{x.name}</b>
          <span className="text-small text-quiet">
            {(x.stations ?? []).map((id) => room.stations.find((s) => s.id === id)?.name ?? "gone").join(", ")}
          </span>
          <Button disabled={set.isPending} onClick={() => set.mutate({ base: revision, running: room.running.filter((_, k) => k !== i) })}>
            Not any more
          </Button>
        </p>
      ))}
      {drawing.length > 1 && (
        <details>
          <summary className="cursor-pointer font-semibold text-blue">These run at the same time</summary>
          <form
            className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1"
            onSubmit={(e) => {
              e.preventDefault();
              if (name.trim() === "" || ids.length < 2) return;
              set.mutate(
                { base: revision, running: [...room.running, { name: name.trim(), stations: ids }] },
                { onSuccess: () => (setName(""), setIds([])) },
              );
            }}
          >
            <Labelled label="when" width="w-56">
              <input
                value={name}
                placeholder="sanding in winter"
                onChange={(e) => setName(e.target.value)}
                className="w-full border-b border-line bg-transparent placeholder:text-quiet"
              />
            </Labelled>
            {drawing.map((s) => (
              <Tickbox key={s.id} on={ids.includes(s.id)} onChange={(on) => setIds(on ? [...ids, s.id] : ids.filter((x) => x !== s.id))}>
                {s.name}
              </Tickbox>
            ))}
            <Button kind="main" type="submit" disabled={set.isPending || name.trim() === "" || ids.length < 2}>
              Count them together
            </Button>
          </form>
        </details>
      )}
    </div>
  );
}
