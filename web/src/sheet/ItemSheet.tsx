import { useShown } from "../app/shown";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, onto, unwrap, type Item, type Round, type Spot } from "../api/client";
import { useChange, useGiveBest, useGiveHome, useMakeRoom, useLockHome, useTakeHome } from "../app/shop";
import { Measure } from "../photo/Measure";
import { Photos } from "../photo/Photos";
import { useSet } from "../belongings/useList";
import { useUsed, useUses } from "../fit/useWorking";
import { TakeIt } from "../daily/TakeIt";
import { day, seconds, uses, fixed } from "../units";
import { Measures, Moved } from "./Said";
import { useWhy } from "./useWhy";
import { Acts, Part, Row, Sheet } from "./Sheet";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";

interface Props {
  round: Round;
  revision: number;
  item: Item;
  onPlace: (item: Item) => void;
}

/** ItemSheet says what a thing is, why it lives where it does, and where it might. */
export function ItemSheet({ round, revision, item, onPlace }: Props) {
  const { select } = useShown();
  const units = round.units;
  const why = useWhy(item.id, revision).data;
  const give = useGiveHome();
  const best = useGiveBest();
  const take = useTakeHome();
  const lock = useLockHome();
  const used = useUsed();
  const set = useSet();
  const stand = useChange(
    async (v: { base: number; id: string }) =>
      unwrap(await api.POST("/api/v1/items/{id}/station", { params: { path: { id: v.id } }, headers: onto(v.base) })),
    (r) => (r.blocked === "" ? "It is a station on the floor now." : `It is a station on the floor now, but ${r.blocked}.`),
  );
  const noted = useUses()?.find((u) => u.item === item.id);
  const stations = round.plan.stations.filter((s) => item.used_at.includes(s.id)).map((s) => s.name);
  const place = round.places.find((p) => p.id === item.place);
  return (
    <Sheet
      onClose={() => select(undefined)}
      live
      title={item.count > 1 ? `${item.count} × ${item.name}` : item.name}
      address={item.place || (item.lies ? `lies in ${item.lies}` : "no home")}
      sub={<Measures item={item} units={units} at={stations} />}
    >
      <div className="mt-2">
        <Photos id={item.id} name={item.name} photos={item.photos} revision={revision} height={64} />
        <Measure
          key={`measure ${item.id}`}
          item={item}
          revision={revision}
          units={units}
          busy={set.isPending}
          onSize={(w, h) =>
            set.mutate(
              { base: revision, ids: [item.id], field: "w", text: w },
              { onSuccess: (r) => set.mutate({ base: r.id, ids: [item.id], field: "h", text: h }) },
            )
          }
        />
      </div>
      <TakeIt key={`day ${item.id}`} item={item} revision={revision} />
      {why && place && (
        <Part title="Why here">
          <p className="mb-1 text-small text-quiet">
            {place.name}
            {why.station && `, fetched from ${why.station}`}
          </p>
          {why.parts.map((p, i) => (
            <Row
              key={i}
              label={
                <>
                  {p.name} <span className="text-small text-quiet">{p.detail}</span>
                </>
              }
              value={`${fixed(p.seconds, 1)} s`}
            />
          ))}
          <Row label="and put back" value={`${fixed(why.put_back, 1)} s`} />
          <div className="mt-1 border-t border-line pt-1">
            <Row strong label={`a week, ${uses(why.uses).replace(" × a", " uses a")}`} value={seconds(why.seconds)} />
            <Row label="order" value={`${why.order} of 4`} />
          </div>
          {why.caution && <p className="mt-1 text-red">Caution: {why.caution}. Lift it with somebody, or keep it at hip height.</p>}
        </Part>
      )}
      {why && !place && (
        <Part title="Without a home">
          {item.lies && (
            <p className="mb-1">It lies on top or leans in {item.lies}: there is no spot of its own for it there as things are.</p>
          )}
          <Row strong label="counts as, a week" value={seconds(why.seconds)} />
          <p className="mt-1 text-small text-quiet">A thing without a home takes about 60 s to find each time (estimate).</p>
        </Part>
      )}
      {why && why.better.length > 0 && (
        <Part title={place ? "Better" : "Best free spot"}>
          {why.better.map((b) => (
            <div key={b.place} className="flex items-baseline justify-between gap-2 py-px">
              <span className="shrink-0">
                {b.place}, {seconds(b.seconds)}
              </span>
              {b.barred ? (
                <span className="narrow text-right text-small leading-tight text-red">{b.barred}</span>
              ) : (
                <Button onClick={() => best.mutate({ item: item.id, name: item.name, base: revision, place: b.place })}>Move there</Button>
              )}
            </div>
          ))}
        </Part>
      )}
      <Room key={`room ${item.id}`} item={item} revision={revision} />
      <Elsewhere key={item.id} round={round} item={item} onGive={(spot) => give.mutate({ item: item.id, base: revision, spot })} />
      {round.people.length > 1 && (
        <Part title="Whose it is">
          <div className="flex items-center justify-between gap-2">
            <span className="text-small text-quiet">its reach and lifting count</span>
            <Pick
              label="Whose it is"
              value={item.whose}
              choices={[{ value: "", name: "anybody's" }, ...round.people.map((p) => ({ value: p, name: p }))]}
              onPick={(text) => set.mutate({ base: revision, ids: [item.id], field: "whose", text })}
            />
          </div>
        </Part>
      )}
      {noted && (
        <p className="mt-2 text-small text-quiet">
          {noted.n === 0 ? "Not used" : noted.n === 1 ? "Used once" : `Used ${noted.n} times`} in 90 days, last on {day(noted.last)}.
        </p>
      )}
      <Acts>
        <Button kind="main" onClick={() => onPlace(item)} disabled={give.isPending}>
          {place ? "Best free spot" : "Find it a home"}
        </Button>
        <Button disabled={used.isPending} onClick={() => used.mutate({ id: item.id, name: item.name })}>
          Used today
        </Button>
        <Button onClick={() => stand.mutate({ base: revision, id: item.id })}>It is worked at</Button>
        {place && <Button onClick={() => take.mutate({ item: item.id, base: revision })}>Clear its home</Button>}
        {place && (
          <Button disabled={lock.isPending} onClick={() => lock.mutate({ item: item.id, base: revision, locked: !item.locked })}>
            {item.locked ? "Unlock its home" : "Lock its home"}
          </Button>
        )}
      </Acts>
    </Sheet>
  );
}

/** Elsewhere asks about any other place, by keyboard as well. */
function Elsewhere({ round, item, onGive }: { round: Round; item: Item; onGive: (spot: Spot) => void }) {
  const [place, setPlace] = useState("");
  const ask = useMutation({
    mutationFn: async (id: string) =>
      unwrap(await api.POST("/api/v1/items/{id}/try", { params: { path: { id: item.id } }, body: { place: id } })),
  });
  const answer = ask.data;
  return (
    <Part title="Another place">
      <div className="flex items-center justify-between gap-2">
        <span className="shrink-0 text-small text-quiet">what if it lived in</span>
        <Pick
          label="Another place"
          value={place}
          choices={[{ value: "", name: "choose…" }, ...round.places.map((p) => ({ value: p.id, name: `${p.id} ${p.name}` }))]}
          onPick={(id) => {
            setPlace(id);
            ask.reset();
            if (id) ask.mutate(id);
          }}
        />
      </div>
      {answer && (
        <div role="status" className="mt-1">
          {answer.allowed ? (
            <div className="flex items-baseline justify-between gap-2">
              <span>
                <b>{seconds(answer.here)}</b> a week, {seconds(answer.now)} now
              </span>
              <Button onClick={() => onGive(answer.spot)}>Move there</Button>
            </div>
          ) : (
            <span className="text-red">Not there: {answer.why}.</span>
          )}
        </div>
      )}
    </Part>
  );
}

/** Room says what would be gained if others moved for a thing, and makes it so. */
function Room({ item, revision }: { item: Item; revision: number }) {
  const [others, setOthers] = useState(2);
  const make = useMakeRoom();
  const a = useQuery({
    queryKey: keys.admit(item.id, others, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/items/{id}/admit", { params: { path: { id: item.id }, query: { others } } })),
    placeholderData: (old) => old,
  }).data;
  if (!a) return null;
  const gain = a.before - a.seconds;
  if (a.found && gain < 0.5 && a.more < 0.5) return null;
  return (
    <Part title="If others moved for it">
      <label className="flex items-baseline justify-between gap-2">
        <span>
          at most{" "}
          <input
            type="number"
            min={0}
            max={9}
            value={others}
            aria-label="How many may move"
            onChange={(e) => setOthers(Math.max(0, Math.min(9, Number(e.target.value) || 0)))}
            className="w-10 border-b border-line bg-transparent text-right"
          />{" "}
          others
        </span>
        {a.found && (
          <b>
            {a.place}, {gain >= 0 ? "−" : "+"}
            {seconds(Math.abs(gain))}
          </b>
        )}
      </label>
      {!a.found && <p className="text-small text-red">{a.why}</p>}
      {!a.found && a.change && (
        <p className="text-small">
          <span className="text-quiet">smallest change:</span> <b>{a.change}</b>
        </p>
      )}
      <Moved moved={a.moved} />
      {a.more > 0.5 && (
        <p className="text-small text-quiet">
          With {a.more_moved} moved it would be {seconds(a.more)} less.
        </p>
      )}
      {a.found && gain > 0.5 && (
        <button
          className="mt-0.5 font-semibold text-blue hover:underline"
          disabled={make.isPending}
          onClick={() => make.mutate({ item: item.id, base: revision, others })}
        >
          Make room for it
        </button>
      )}
    </Part>
  );
}
