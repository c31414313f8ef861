import { NavLink, useLocation, type To } from "react-router";
import { useGroups } from "../devices/useSession";
import type { Screen } from "./screens";

/** Ways is the way through the work: its stages side by side, the one somebody is in opened to its screens. */
export function Ways({ screen, onPick }: { screen: Screen; onPick: (s: Screen) => void }) {
  const { search } = useLocation();
  const { groups } = useGroups();
  // With the query kept, one comes back to the same thing on another screen.
  const to = (s: Screen): To => ({ pathname: s.path, search });
  return (
    <nav aria-label="Screens">
      <ul className="m-0 flex list-none items-stretch gap-1 p-0 max-lg:gap-0.5">
        {groups.map((g) => {
          const open = g.screens.includes(screen);
          const first = g.screens[0] as Screen;
          return (
            <li key={g.name} className={`flex items-center ${open ? "border border-line bg-sheet" : ""}`}>
              {open ? (
                <>
                  <span className="pl-2.5 text-small text-quiet max-2xl:sr-only">{g.name}</span>
                  {g.screens.map((s) => (
                    <Way key={s.path} name={s.name} to={to(s)} onPick={() => onPick(s)} />
                  ))}
                </>
              ) : (
                <Way name={g.name} to={to(first)} onPick={() => onPick(first)} />
              )}
            </li>
          );
        })}
      </ul>
    </nav>
  );
}

function Way({ name, to, onPick }: { name: string; to: To; onPick: () => void }) {
  return (
    <NavLink
      to={to}
      onClick={onPick}
      className={({ isActive }) =>
        `border-b-2 px-2 py-1.5 text-lead whitespace-nowrap max-lg:px-0.5 max-lg:text-body ${isActive ? "border-blue font-bold text-blue" : "border-transparent hover:border-line"}`
      }
    >
      {name}
    </NavLink>
  );
}
