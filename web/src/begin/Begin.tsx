import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { api, changed, keys, unwrap, type Round } from "../api/client";
import { base } from "../api/base";
import { BringIn } from "../belongings/BringIn";
import { accepted, takeShop } from "../belongings/takeShop";
import { reason } from "../reason";
import { Button } from "../ui/Button";
import { Questions } from "./Questions";

/** Begin is the first page of a new shop: begin your own, look at a copy of an example, or bring one in; and the shops side by side. */
export default function Begin({ round, revision }: { round: Round; revision: number }) {
  const shops = useQuery({ queryKey: keys.shops, queryFn: async () => unwrap(await api.GET("/api/v1/shops")) }).data;
  const client = useQueryClient();
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const [from, setFrom] = useState<File>();
  const [name, setName] = useState("");
  const [why, setWhy] = useState("");

  const copy = async (id: string) => {
    try {
      unwrap(await api.POST("/api/v1/shop/example", changed({ base: revision, id })));
      await client.invalidateQueries();
      void navigate("/round");
    } catch (e) {
      toast.error(reason(e));
    }
  };
  const take = async (f: File) => {
    try {
      if (!(await takeShop(f, revision))) return setFrom(f);
      await client.invalidateQueries();
      void navigate("/round");
    } catch (e) {
      toast.error(reason(e), { duration: 12000 });
    }
  };
  const make = async () => {
    setWhy("");
    try {
      const made = unwrap(await api.POST("/api/v1/shops", { body: { name: name.trim() } }));
      location.assign(`${made.path}begin`);
    } catch (e) {
      setWhy(reason(e));
    }
  };
  const others = shops?.shops.filter((s) => s.path.replace(/\/$/, "") !== base) ?? [];
  const here = shops?.shops.find((s) => s.path.replace(/\/$/, "") === base);

  return (
    <div className="min-h-0 flex-1 overflow-y-auto" data-testid="begin">
      <div className="mx-auto grid max-w-290 grid-cols-[minmax(0,1fr)_20rem] gap-x-10 gap-y-6 px-5 pt-5 pb-16 max-lg:grid-cols-1">
        {round.fresh ? (
          <Questions revision={revision} onBegun={() => void navigate("/survey", { state: { begun: true } })} />
        ) : (
          <section>
            <h1 className="m-0 text-head font-bold">{round.name}</h1>
            <p className="mt-1">
              This is the shop you are in. What holds for the whole of it, the people and how you work, is under Facts.
            </p>
            {here && <p className="text-small break-all text-quiet">Kept in {here.file}</p>}
          </section>
        )}
        <aside className="flex flex-col gap-6">
          {round.fresh && (
            <>
              <section>
                <h2 className="m-0 text-lead font-bold">Look at one first</h2>
                <p className="m-0 mb-1 text-small text-quiet">
                  A copy to play with. Undo brings the empty shop back, and another shop can be begun beside it.
                </p>
                {shops?.examples.map((e) => (
                  <div key={e.id}>
                    <Button onClick={() => void copy(e.id)}>Open a copy of {e.says}</Button>
                  </div>
                ))}
              </section>
              <section>
                <h2 className="m-0 text-lead font-bold">Bring in what you have</h2>
                <p className="m-0 mb-1 text-small text-quiet">
                  A shop file or a zip with its photos takes the place of this empty shop; of a list as CSV or a workbook, you say what each
                  column is.
                </p>
                <Button onClick={() => file.current?.click()}>Choose a file …</Button>
                <input
                  ref={file}
                  type="file"
                  accept={accepted}
                  aria-label="File to bring in"
                  className="hidden"
                  onChange={(e) => {
                    const f = e.target.files?.[0];
                    if (f) void take(f);
                    e.target.value = "";
                  }}
                />
              </section>
            </>
          )}
          {(shops?.shops.length ?? 0) > 0 && (
            <section aria-label="Shops side by side">
              <h2 className="m-0 text-lead font-bold">Shops side by side</h2>
              <p className="m-0 mb-1 text-small text-quiet">
                Each is a file of its own with its own history: a second room to plan, one of a friend, one to try things out in.
              </p>
              <ul className="m-0 list-none p-0">
                {others.map((s) => (
                  <li key={s.path}>
                    <a href={s.path} className="font-semibold text-blue hover:underline">
                      Go to {s.name}
                    </a>
                  </li>
                ))}
              </ul>
              <form
                className="mt-1 flex items-baseline gap-3"
                onSubmit={(e) => {
                  e.preventDefault();
                  if (name.trim() !== "") void make();
                }}
              >
                <input
                  value={name}
                  onChange={(e) => {
                    setName(e.target.value);
                    setWhy("");
                  }}
                  aria-label="Name of another shop"
                  placeholder="its name"
                  className="w-40 border-b border-line bg-transparent px-1 py-0.5"
                />
                <button type="submit" className="font-semibold text-blue hover:underline">
                  Begin another shop
                </button>
              </form>
              {why !== "" && (
                <p role="alert" className="m-0 text-red">
                  {why}
                </p>
              )}
            </section>
          )}
        </aside>
      </div>
      {from && <BringIn from={from} revision={revision} onClose={() => setFrom(undefined)} />}
    </div>
  );
}
