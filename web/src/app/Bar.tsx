import { Menu as Lines } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { NavLink, useLocation } from "react-router";
import { Button } from "../ui/Button";
import { Switch } from "../ui/Switch";
import { useGroups } from "../devices/useSession";
import type { Screen } from "./screens";
import { useShown } from "./shown";
import { shade } from "../ui/windows";

/** Bar is the way through the work on a phone: four screens under the thumb, and the rest of them. */
export function Bar({ screen, onPick, onKeys }: { screen: Screen; onPick: (s: Screen) => void; onKeys: () => void }) {
  const { search } = useLocation();
  const { groups, thumbed } = useGroups();
  const { lamp, setLamp } = useShown();
  const [open, setOpen] = useState(false);
  const entry = "flex min-h-12 flex-1 flex-col items-center justify-center border-t-2 px-0.5 text-small whitespace-nowrap";
  const more = !thumbed.includes(screen);
  return (
    <nav
      aria-label="Screens"
      className="hidden shrink-0 border-t border-line bg-sheet pb-[env(safe-area-inset-bottom)] max-md:flex print:hidden"
    >
      {thumbed.map((s) => (
        <NavLink
          key={s.path}
          to={{ pathname: s.path, search }}
          onClick={() => onPick(s)}
          className={({ isActive }) => `${entry} ${isActive ? "border-blue font-bold text-blue" : "border-transparent"}`}
        >
          {s.name}
        </NavLink>
      ))}
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Trigger className={`${entry} ${more ? "border-blue font-bold text-blue" : "border-transparent"}`}>
          <span className="narrow flex items-center gap-1">
            <Lines size={15} aria-hidden />
            {more ? screen.name : "More"}
          </span>
        </Dialog.Trigger>
        <Dialog.Portal>
          <Dialog.Overlay className={shade} />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed inset-x-0 bottom-0 z-50 max-h-[85dvh] overflow-y-auto border-t border-ink bg-sheet px-4 pt-3 pb-6 text-ink"
          >
            <Dialog.Title className="mb-1 text-head font-bold">All screens</Dialog.Title>
            {groups.map((g) => (
              <div key={g.name} className="border-t border-line/60 py-1">
                <span className="text-small text-quiet">{g.name}</span>
                <div className="flex flex-wrap">
                  {g.screens.map((s) => (
                    <NavLink
                      key={s.path}
                      to={{ pathname: s.path, search }}
                      onClick={() => {
                        setOpen(false);
                        onPick(s);
                      }}
                      className={({ isActive }) =>
                        `flex min-h-11 items-center pr-6 text-lead font-semibold ${isActive ? "text-blue underline" : ""}`
                      }
                    >
                      {s.name}
                    </NavLink>
                  ))}
                </div>
              </div>
            ))}
            <div className="flex flex-wrap items-center justify-between gap-3 border-t border-line pt-2">
              <Switch on={lamp} onChange={setLamp}>
                Lamp on
              </Switch>
              <Button
                onClick={() => {
                  setOpen(false);
                  onKeys();
                }}
              >
                Keys
              </Button>
              <Dialog.Close asChild>
                <Button kind="main">Close</Button>
              </Dialog.Close>
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </nav>
  );
}
