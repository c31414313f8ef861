import type { Round } from "../api/client";
import { usePhone } from "../app/usePhone";
import { useOut, useTap } from "../daily/useDaily";
import { all, pieces } from "../daily/words";
import { Inside } from "../places/Inside";
import { Button } from "../ui/Button";
import { usePlacePage } from "./useLook";

/** PlacePage is what the code of a label opens: what belongs here, what is out, all of it back. */
export function PlacePage({ id, round, revision, onClose }: { id: string; round: Round; revision: number; onClose: () => void }) {
  const phone = usePhone();
  const tap = useTap();
  const asked = usePlacePage(id);
  const out = useOut() ?? [];
  const page = asked.data;
  if (asked.error)
    return (
      <p className="mt-3 text-red" role="alert">
        {asked.error.message} <Button onClick={onClose}>Back</Button>
      </p>
    );
  if (!page) return <p className="mt-3 text-quiet">Opening {id} …</p>;
  const gone = out.filter((o) => page.things.some((t) => t.item === o.item));
  const away = (item: string) => gone.filter((o) => o.item === item).reduce((n, o) => n + pieces(o), 0);
  const place = round.places.find((p) => p.id === id);
  const taken = gone.filter((o) => o.what === "taken");
  return (
    <div className={phone ? "mt-2" : "mt-2 grid grid-cols-[minmax(0,34rem)_minmax(0,24rem)] gap-8"} data-testid="place-page">
      <div>
        <p className="m-0 text-head leading-tight font-bold">
          <span className="text-blue">{page.id}</span> {page.name}
        </p>
        <p className="m-0 text-small text-quiet">
          {page.where.startsWith(`${page.name}, `) ? page.where.slice(page.name.length + 2) : page.where}
        </p>
        {page.caution !== "" && <p className="m-0 mt-1 font-semibold text-red first-letter:uppercase">{page.caution}.</p>}
        <ul className="m-0 mt-2 list-none p-0">
          {page.things.map((t) => {
            const n = Math.min(t.n, away(t.item));
            return (
              <li key={t.item} className="flex items-baseline justify-between gap-3 border-b border-line py-1 thumb:py-2">
                <span className={n >= t.n ? "text-quiet" : ""}>
                  {t.n > 1 ? `${t.n} × ${t.name}` : t.name}
                  {n > 0 && <b className="text-small text-ink"> {n >= t.n ? "out" : `${n} out`}</b>}
                </span>
                <span className="flex gap-3">
                  {n > 0 && (
                    <Button onClick={() => void tap({ what: "put-back", items: [{ item: t.item, n }] }, `${t.name} put back`)}>Back</Button>
                  )}
                  {n < t.n && (
                    <Button onClick={() => void tap({ what: "taken", items: [{ item: t.item, n: 1 }] }, `${t.name} taken`)}>Take</Button>
                  )}
                </span>
              </li>
            );
          })}
        </ul>
        {page.things.length === 0 && <p className="text-quiet">Nothing lives here.</p>}
        <p className="mt-3 flex flex-wrap gap-4">
          {taken.length > 0 && (
            <Button kind="main" onClick={() => void tap({ what: "put-back", items: all(taken) }, `all of ${id} put back`)}>
              All of it is back
            </Button>
          )}
          {page.portable && taken.length < page.things.length && (
            <Button onClick={() => void tap({ what: "taken", boxes: [id] }, `${id} taken`)}>Take the box</Button>
          )}
          <Button onClick={onClose}>Done here</Button>
        </p>
      </div>
      {!phone && place && <Inside place={place} round={round} revision={revision} />}
    </div>
  );
}
