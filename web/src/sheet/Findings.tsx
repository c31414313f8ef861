import { Link } from "react-router";
import { useShown } from "../app/shown";
import { useCheck } from "./useCheck";
import { Part } from "./Sheet";

/** Findings are what the check says of one thing or place, or of the whole shop: broken rules first, then cautions. */
export function Findings({ revision, about, most = 6 }: { revision: number; about?: string[]; most?: number }) {
  const { select } = useShown();
  const all = useCheck(revision).data;
  const here = all?.filter((f) => !about || about.includes(f.id)) ?? [];
  if (!all || (about && here.length === 0)) return null;
  const broken = here.filter((f) => f.hard).length;
  return (
    <Part
      title={
        broken > 0
          ? `${broken} ${broken === 1 ? "rule is" : "rules are"} broken`
          : here.length > 0
            ? `${here.length} ${here.length === 1 ? "caution" : "cautions"}`
            : "No cautions"
      }
    >
      <ul className="m-0 list-none p-0 text-small leading-snug" aria-label="What the check says">
        {here.slice(0, most).map((f, i) => (
          <li key={i} className={f.hard ? "text-red" : ""}>
            {!about && (f.kind === "item" || f.kind === "place") ? (
              <button
                className="w-full py-px text-left hover:text-blue"
                onClick={() => select({ kind: f.kind as "item" | "place", id: f.id }, true)}
              >
                {f.what}
              </button>
            ) : f.kind === "station" || f.kind === "area" ? (
              <Link to="/floor" className="hover:text-blue">
                {f.what}
              </Link>
            ) : (
              f.what
            )}
          </li>
        ))}
      </ul>
      {here.length > most && <p className="text-small text-quiet">and {here.length - most} more: hobrak check names them all</p>}
    </Part>
  );
}
