import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { toast } from "sonner";
import { api, keys, unwrap, type Run } from "../api/client";

/** useFit starts a search, follows its stream and holds the plan until it is accepted or discarded. */
export function useFit() {
  const [run, setRun] = useState<Run>();
  const [falling, setFalling] = useState<{ share: number; objective: number }[]>([]);
  const id = run?.id;
  const done = run?.state === "done";

  const start = useCallback(async (seconds = 20) => {
    try {
      setFalling([]);
      setRun(unwrap(await api.POST("/api/fits", { body: { seconds } })));
    } catch (e) {
      toast.error((e as Error).message);
    }
  }, []);

  useEffect(() => {
    if (!id || done) return;
    const source = new EventSource(`/api/fits/${id}/events`);
    source.addEventListener("run", (e) => {
      const next = JSON.parse((e as MessageEvent<string>).data) as Run;
      setRun(next);
      if (next.objective > 0) setFalling((f) => [...f, { share: next.share, objective: next.objective }]);
      if (next.state === "done") source.close();
    });
    return () => source.close();
  }, [id, done]);

  const proposal = useQuery({
    queryKey: keys.proposal(id ?? ""),
    enabled: id !== undefined && done,
    staleTime: Infinity,
    queryFn: async () => unwrap(await api.GET("/api/fits/{id}/proposal", { params: { path: { id: id ?? "" } } })),
  });

  const stop = useCallback(async () => {
    if (id) setRun(unwrap(await api.POST("/api/fits/{id}/stop", { params: { path: { id } } })));
  }, [id]);
  const forget = useCallback(() => setRun(undefined), []);
  const discard = useCallback(async () => {
    if (id) await api.DELETE("/api/fits/{id}", { params: { path: { id } } });
    setRun(undefined);
  }, [id]);

  return { run, falling, proposal: run && done ? proposal.data : undefined, start, stop, discard, forget };
}

export type Fit = ReturnType<typeof useFit>;
