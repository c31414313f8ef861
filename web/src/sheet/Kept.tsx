import { day, megabytes } from "../units";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { NavLink } from "react-router";
import { toast } from "sonner";
import { api, keys, unwrap } from "../api/client";
import { Part, Row } from "./Sheet";
import { Button } from "../ui/Button";

/** Kept says in which file the shop is kept, and where its daily backups are. */
export function Kept() {
  const cache = useQueryClient();
  const about = useQuery({ queryKey: keys.about, queryFn: async () => unwrap(await api.GET("/api/v1/about")), staleTime: 60_000 }).data;
  const backup = useMutation({
    mutationFn: async () => unwrap(await api.POST("/api/v1/backups")),
    onSuccess: () => {
      toast("Today's backup is there.");
      void cache.invalidateQueries({ queryKey: keys.about });
    },
    onError: (e) => toast.error(e.message),
  });
  if (!about) return null;
  const { list, folder, keep } = about.backups;
  const today = new Date().toDateString();
  const done = list[0] !== undefined && new Date(list[0].at).toDateString() === today;
  return (
    <Part title="Where this shop is kept">
      <p className="text-small leading-snug break-all" data-testid="database">
        {about.database}
      </p>
      <Row
        label="newest backup"
        value={list[0] ? `${day(list[0].at.slice(0, 10))}, ${megabytes(list[0].bytes)}` : "none yet"}
        colour={list[0] ? undefined : "var(--red)"}
      />
      <p className="text-small leading-snug text-quiet">
        One a day, the last {keep}, in <span className="break-all">{folder}</span>. Keep a copy on another disk now and then.
      </p>
      {!done && (
        <Button onClick={() => backup.mutate()} disabled={backup.isPending}>
          Back up now
        </Button>
      )}
      <NavLink to="/devices" className="block w-fit border-b-2 border-transparent py-1 font-semibold text-blue hover:border-blue">
        Phones and other devices
      </NavLink>
      {about.phrase && (
        <form method="post" action="/leave">
          <button className="border-b-2 border-transparent py-1 font-semibold text-blue hover:border-blue">Sign out of this browser</button>
        </form>
      )}
    </Part>
  );
}
