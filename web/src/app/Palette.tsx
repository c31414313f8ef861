import { Command as Menu } from "cmdk";
import { useState } from "react";
import type { Found, Round } from "../api/client";
import { useFound } from "../find/useFound";
import { seconds } from "../units";
import { written, type Command } from "./commands";
import { useGroups, useRole } from "../devices/useSession";
import { devices } from "../screens/devices";
import type { Screen } from "./screens";
import { shade } from "../ui/windows";

interface Props {
  open: boolean;
  setOpen: (on: boolean) => void;
  commands: readonly Command[];
  round: Round;
  revision: number;
  onScreen: (s: Screen) => void;
  onWall: (offset: number) => void;
  onFound: (f: Found) => void;
}

const line =
  "flex cursor-pointer items-baseline justify-between gap-4 px-3 py-1.5 data-[selected=true]:bg-ink data-[selected=true]:text-paper";

/** Palette finds everything by a few letters: what can be done, screens, walls, things and places. */
export default function Palette({ open, setOpen, commands, round, revision, onScreen, onWall, onFound }: Props) {
  const [q, setQ] = useState("");
  const found = useFound(q, revision);
  const hits = q.trim() === "" ? [] : (found.data ?? []);
  const told = (text: string) => text.toLowerCase().includes(q.trim().toLowerCase());
  const doing = commands.filter((c) => !c.off && !c.hidden && told(c.name));
  const { groups } = useGroups();
  const maker = useRole() === "maker";
  const ways = groups.flatMap((g) => g.screens.map((s) => ({ s, g })));
  const own = maker ? [{ s: devices, g: { name: "The shop", screens: [] } }] : [];
  const to = [...ways, ...own].filter(({ s, g }) => told(`${g.name} ${s.name}`));
  const stations = round.plan.stations.filter((s) => told(s.name));
  const walls = round.elevations.filter((e) => told(e.middle ? `in the room ${e.title}` : `wall ${e.title}`));
  const take = (act: () => void) => () => {
    setOpen(false);
    setQ("");
    act();
  };
  // What begins so is meant before a thing that has the letters somewhere in its name.
  const first =
    q.trim() !== "" &&
    [...doing.map((c) => c.name), ...to.map(({ s }) => s.name)].some((name) => name.toLowerCase().startsWith(q.trim().toLowerCase()));
  // What only a slip would make of the letters comes last.
  const things = (list: Found[]) =>
    list.length > 0 && (
      <Menu.Group heading={list[0]?.sure ? "Things and places" : "Did you mean"}>
        {list.slice(0, 8).map((f) => (
          <Menu.Item key={`${f.kind} ${f.id}`} value={`${f.kind} ${f.id}`} onSelect={take(() => onFound(f))} className={line}>
            <span>{f.name}</span>
            <span className="text-small opacity-75">{f.address}</span>
          </Menu.Item>
        ))}
      </Menu.Group>
    );
  return (
    <Menu.Dialog
      open={open}
      onOpenChange={setOpen}
      label="Find anything"
      shouldFilter={false}
      overlayClassName={shade}
      contentClassName="fixed top-[12vh] left-1/2 z-50 w-[min(560px,94vw)] -translate-x-1/2 border border-ink bg-sheet text-ink"
    >
      <Menu.Input
        value={q}
        onValueChange={setQ}
        placeholder="A thing, place, wall, screen or command"
        aria-label="Find anything"
        className="w-full border-b border-line bg-paper px-3 py-2.5 text-lead outline-none"
      />
      <Menu.List className="max-h-[56vh] overflow-y-auto py-1 text-lead [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-small [&_[cmdk-group-heading]]:text-quiet">
        <Menu.Empty className="px-3 py-2 text-quiet">Nothing is called that.</Menu.Empty>
        {!first && things(hits.filter((f) => f.sure && f.kind !== "station"))}
        {doing.length > 0 && (
          <Menu.Group heading="Do">
            {doing.map((c) => (
              <Menu.Item key={c.name} value={`do ${c.name}`} onSelect={take(c.run)} className={line}>
                <span>{c.name}</span>
                <span className="text-small opacity-75">{c.keys?.slice(0, 1).map((k) => written(k))}</span>
              </Menu.Item>
            ))}
          </Menu.Group>
        )}
        {to.length > 0 && (
          <Menu.Group heading="Go to">
            {to.map(({ s, g }) => (
              <Menu.Item key={s.path} value={`go ${s.path}`} onSelect={take(() => onScreen(s))} className={line}>
                <span>{s.name}</span>
                <span className="text-small opacity-75">{g.name}</span>
              </Menu.Item>
            ))}
          </Menu.Group>
        )}
        {q.trim() !== "" && stations.length > 0 && (
          <Menu.Group heading="Stations">
            {stations.slice(0, 8).map((s) => (
              <Menu.Item
                key={s.id}
                value={`station ${s.id}`}
                onSelect={take(() =>
                  onFound({
                    kind: "station",
                    id: s.id,
                    name: s.name,
                    address: "",
                    where: "",
                    photo: "",
                    now: "",
                    going: "",
                    count: 1,
                    home: 1,
                    out: [],
                    with: [],
                    set_up: "",
                    open: [],
                    box: "",
                    caution: "",
                    sure: true,
                  }),
                )}
                className={line}
              >
                <span>{s.name}</span>
                <span className="text-small opacity-75">{seconds(s.seconds)} a week</span>
              </Menu.Item>
            ))}
          </Menu.Group>
        )}
        {walls.length > 0 && (
          <Menu.Group heading="Look at">
            {walls.map((e) => (
              <Menu.Item
                key={`${e.area} ${e.id}`}
                value={`look ${e.area} ${e.id} ${e.offset}`}
                onSelect={take(() => onWall(e.offset))}
                className={line}
              >
                <span>{e.middle ? "What stands in the room" : e.title}</span>
              </Menu.Item>
            ))}
          </Menu.Group>
        )}
        {first && things(hits.filter((f) => f.sure && f.kind !== "station"))}
        {things(hits.filter((f) => !f.sure))}
      </Menu.List>
    </Menu.Dialog>
  );
}
