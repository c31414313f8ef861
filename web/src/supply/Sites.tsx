import { useState } from "react";
import { useMoveStation } from "../floor/useFloor";
import { Button } from "../ui/Button";
import { distance, fixed, type Units } from "../units";
import { cell, head } from "./cells";
import { useSites, type Supplied } from "./useSupply";

/** Sites are spots where a machine would stand better by what it needs of the room, with what it would have there. */
export function Sites({
  station: s,
  units,
  revision,
  mode,
}: {
  station: Supplied["stations"][number];
  units: Units;
  revision: number;
  mode: string;
}) {
  const [asked, setAsked] = useState(false);
  const sites = useSites(s.id, mode, revision, asked).data;
  const move = useMoveStation();
  const now = sites?.find((x) => x.now);
  const some = (f: (x: NonNullable<typeof now>) => number) => sites?.some((x) => f(x) > 0);
  return (
    <details className="mt-1" open={asked} onToggle={(e) => setAsked(e.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold text-blue">Where it would stand best by what it needs</summary>
      {asked && !sites && <p className="m-0 text-quiet">Trying the walls …</p>}
      {sites && sites.length === 1 && <p className="m-0">Nowhere better is clear: it has the best of this room where it stands.</p>}
      {sites && sites.length > 1 && (
        <table className="w-full border-collapse" data-testid="sites">
          <thead>
            <tr>
              <th className={head + " pl-0! text-left!"}></th>
              {some((x) => x.hose) && <th className={head}>farthest hose</th>}
              {some((x) => x.cord) && <th className={head}>cord short</th>}
              {some((x) => x.bench) && <th className={head}>at the bench</th>}
              {some((x) => x.beyond) && <th className={head}>at the neighbour</th>}
              {some((x) => x.light) && <th className={head}>evening lx</th>}
              {some((x) => x.door) && <th className={head}>to the door</th>}
              <th className={head}></th>
            </tr>
          </thead>
          <tbody>
            {sites.map((x, i) => (
              <tr key={i} className={x.now ? "text-quiet" : ""}>
                <td className="border-b border-line py-1">{x.now ? "where it stands" : `at wall ${x.wall}`}</td>
                {some((y) => y.hose) && <td className={cell}>{distance(x.hose, units)}</td>}
                {some((y) => y.cord) && <td className={cell}>{x.cord > 0 ? distance(x.cord, units) : "—"}</td>}
                {some((y) => y.bench) && <td className={cell}>{fixed(x.bench, 0)} dB(A)</td>}
                {some((y) => y.beyond) && <td className={cell}>{fixed(x.beyond, 0)} dB(A)</td>}
                {some((y) => y.light) && <td className={cell}>{fixed(x.light, 0)}</td>}
                {some((y) => y.door) && <td className={cell}>{distance(x.door, units)}</td>}
                <td className={cell}>
                  {!x.now && mode === "" && (
                    <Button
                      disabled={move.isPending}
                      onClick={() => move.mutate({ base: revision, id: s.id, to: { floor: [x.x, x.y], rot: x.rot } })}
                    >
                      Put it there
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </details>
  );
}
