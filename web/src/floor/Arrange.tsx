import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { api, onto, unwrap, type Arrangement, type FloorLayout, type Station } from "../api/client";
import { useChange } from "../app/shop";
import { useKept } from "../app/useKept";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { useMakeRoom } from "./useFloor";
import { fixed, metres, seconds, squares, type Units } from "../units";

/** Arrange looks for better arrangements of the whole room, and makes room for something in one. */
export function Arrange({
  stations,
  layouts,
  mode,
  revision,
  units,
  onShow,
}: {
  stations: readonly Station[];
  layouts: readonly FloorLayout[];
  mode: string;
  revision: number;
  units: Units;
  /** the proposal that is looked at is drawn on the plan */
  onShow: (p: Arrangement | undefined) => void;
}) {
  const [pinned, setPinned] = useKept<string[]>("pinned stations", []);
  const [found, setFound] = useState<{ revision: number; all: Arrangement[] }>();
  const [shown, setShown] = useState(-1);
  const show = (i: number, all = found?.all ?? []) => {
    setShown(i);
    onShow(all[i]);
  };
  const look = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST("/api/v1/arrange", { body: { pinned: pinned.filter((p) => stations.some((s) => s.id === p)) } })),
    onSuccess: (all) => {
      setFound({ revision, all });
      show(all.length > 0 ? 0 : -1, all);
    },
    onError: (e) => toast.error(e.message),
  });
  const take = useChange(
    async (v: { base: number; p: Arrangement }) =>
      unwrap(await api.PUT("/api/v1/arrange", { headers: onto(v.base), body: { says: v.p.says, moved: v.p.moved } })),
    (r) => `${r.what}. Find homes next: things can follow their stations.`,
  );
  const fresh = found && found.revision === revision ? found.all : undefined;
  return (
    <div
      role="region"
      className="round-scroll min-h-0 flex-1 overflow-y-auto text-body"
      tabIndex={0}
      aria-label="Arrange the room"
      data-testid="arrange"
    >
      {mode === "" ? (
        <>
          <p className="m-0 text-small text-quiet">
            All stations together, by the metres walked and carried in a week, light, dust and room for long pieces. Tick what has to stay.
          </p>
          <ul className="m-0 grid list-none grid-cols-2 gap-x-3 p-0 text-small max-md:grid-cols-1" aria-label="What stays where it is">
            {stations.map((s) => (
              <li key={s.id}>
                <Tickbox on={pinned.includes(s.id)} onChange={(on) => setPinned((p) => (on ? [...p, s.id] : p.filter((x) => x !== s.id)))}>
                  {s.name}
                </Tickbox>
              </li>
            ))}
          </ul>
          <Button kind="main" className="mt-2" disabled={look.isPending || stations.length === 0} onClick={() => look.mutate()}>
            {look.isPending ? "Looking, some seconds …" : "Look for better arrangements"}
          </Button>
          {fresh?.length === 0 && <p className="m-0 mt-2">Nothing better was found: the room is well arranged as it stands.</p>}
          {fresh && fresh.length > 0 && (
            <>
              <table className="mt-3 w-full text-small">
                <thead className="text-left text-quiet">
                  <tr>
                    <th className="font-normal">arrangement</th>
                    <th className="pl-2 text-right font-normal">walked a week</th>
                    <th className="pl-2 text-right font-normal">handled, once homes follow</th>
                    <th className="pl-2 text-right font-normal">free</th>
                    <th className="pl-2 text-right font-normal">ways</th>
                    <th className="pl-2 text-right font-normal">moved</th>
                  </tr>
                </thead>
                <tbody>
                  <tr className="border-t border-line">
                    <td>as it stands</td>
                    <Figures f={fresh[0]!.before} follow={fresh[0]!.stays} moved={0} units={units} />
                  </tr>
                  {fresh.map((p, i) => (
                    <tr key={p.school} className={`border-t border-line ${shown === i ? "bg-sheet font-bold" : ""}`}>
                      <td>
                        <button
                          aria-pressed={shown === i}
                          className="text-left hover:underline thumb:min-h-11"
                          onClick={() => show(shown === i ? -1 : i)}
                        >
                          {p.says}
                        </button>
                      </td>
                      <Figures f={p.after} follow={p.follow} moved={p.moved.length} units={units} />
                    </tr>
                  ))}
                </tbody>
              </table>
              <p className="m-0 mt-1 text-small text-quiet">
                No arrangement is below {metres(fresh[0]!.bound, units, 0)} a week while things live where they do. Fetching and putting
                back counts all arrangements by their hours; with homes as they are it takes {seconds(fresh[0]!.before.handling)} a week.
              </p>
              {fresh[shown] && (
                <Button
                  kind="main"
                  className="mt-1"
                  onClick={() => {
                    take.mutate({ base: revision, p: fresh[shown]! }, { onSuccess: () => show(-1) });
                  }}
                >
                  Take it: {fresh[shown].says}
                </Button>
              )}
            </>
          )}
        </>
      ) : (
        <MakeRoom layout={layouts.find((l) => l.mode === mode)} revision={revision} />
      )}
    </div>
  );
}

function Figures({ f, follow, moved, units }: { f: Arrangement["after"]; follow: Arrangement["follow"]; moved: number; units: Units }) {
  return (
    <>
      <td className="pl-2 text-right whitespace-nowrap tabular-nums">{metres(f.walking, units, 0)}</td>
      <td className="pl-2 text-right whitespace-nowrap tabular-nums">{seconds(follow.handling)}</td>
      <td className="pl-2 text-right whitespace-nowrap tabular-nums">{squares(f.open, units)}</td>
      <td className="pl-2 text-right whitespace-nowrap tabular-nums">{metres(f.narrow / 1000, units, 2)}</td>
      <td className="pl-2 text-right whitespace-nowrap tabular-nums">{fixed(moved, 0)}</td>
    </>
  );
}

/** MakeRoom finds a spot for a boat or whatever rolls in the arrangement that is looked at. */
function MakeRoom({ layout, revision }: { layout: FloorLayout | undefined; revision: number }) {
  const [thing, setThing] = useState("");
  const room = useMakeRoom();
  if (!layout) return null;
  const things = layout.shapes.filter((s) => s.movable || s.state === "away");
  return (
    <>
      <p className="m-0 text-small text-quiet">
        Choose what comes in. It gets the spot for which the fewest other things are moved or folded; they get the nearest free spots.
      </p>
      <div className="mt-1 flex flex-wrap items-baseline gap-2">
        <Pick
          label="What room is made for"
          value={thing}
          choices={[{ value: "", name: "choose what" }, ...things.map((s) => ({ value: s.id, name: s.name }))]}
          onPick={setThing}
        />
        <Button
          kind="main"
          disabled={thing === "" || room.isPending}
          onClick={() => room.mutate({ base: revision, mode: layout.mode, thing })}
        >
          {room.isPending ? "Looking …" : `Make room for it in ${layout.name}`}
        </Button>
      </div>
    </>
  );
}
