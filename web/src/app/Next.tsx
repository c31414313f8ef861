import { mine } from "../api/base";
import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useMemo } from "react";
import { useNavigate } from "react-router";
import { api, keys, unwrap, type Step } from "../api/client";
import { useRole } from "../devices/useSession";
import { Button } from "../ui/Button";
import { Hint } from "../ui/Hint";
import { stored } from "./stored";
import type { Screen } from "./screens";

/** Where a step is taken. */
export const ways: Record<Step["go"], { path: string; search?: string }> = {
  survey: { path: "/survey" },
  belongings: { path: "/belongings" },
  measure: { path: "/belongings", search: "topic=measure" },
  places: { path: "/places", search: "hold=homeless" },
  floor: { path: "/floor" },
  facts: { path: "/facts" },
  fit: { path: "/fit" },
  findings: { path: "/round" },
};

/** Steps that were put away stay away until somebody wants them back. */
const away = stored<string[]>(mine("steps put away"), []);

/** showSteps brings back what was put away. */
export const showSteps = () => away.set([]);

/** useSteps is what is worth doing next, as the core has it, without what was put away. */
export function useSteps(revision: number): Step[] | undefined {
  const hidden = away.use();
  const steps = useQuery({
    queryKey: keys.next(revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/next")),
    placeholderData: (old) => old,
  }).data;
  return useMemo(() => steps?.filter((s) => !hidden.includes(s.id)), [steps, hidden]);
}

/** Next says the one or two things that are worth doing next, with the way there. */
export function Next({ revision, screen }: { revision: number; screen: Screen }) {
  const navigate = useNavigate();
  const all = useSteps(revision);
  const role = useRole();
  if (role !== "maker") return null;
  // Room for it from the first, so that nothing moves when it comes.
  if (!all) return <div className="h-7.75 shrink-0 border-b border-line bg-sheet max-md:h-11.25" />;
  const steps = all.filter((s) => ways[s.go].path !== screen.path).slice(0, 2);
  if (steps.length === 0) return null;
  return (
    <section aria-label="Next" className="flex shrink-0 gap-x-8 border-b border-line bg-sheet px-4 text-small max-md:px-3 print:hidden">
      {steps.map((s, i) => (
        <p key={s.id} className={`m-0 flex min-h-7.5 min-w-0 items-center gap-2 ${i > 0 ? "max-lg:hidden" : ""}`} data-step={s.id}>
          <span className="min-w-0 truncate max-md:line-clamp-2 max-md:whitespace-normal">
            <b>{s.what}</b>
            <span className={`text-quiet ${i > 0 ? "max-2xl:hidden" : ""}`}>: {s.why}</span>
          </span>
          <Hint says={`${s.what}: ${s.why}`}>
            <Button className="thumb:min-h-11" onClick={() => void navigate({ pathname: ways[s.go].path, search: ways[s.go].search })}>
              {s.do}
            </Button>
          </Hint>
          <Hint says="Put this away. Ctrl k, “Show next steps” brings it back.">
            <button
              type="button"
              aria-label={`Put away: ${s.what}`}
              className="flex h-6 w-6 shrink-0 items-center justify-center hover:bg-paper thumb:h-11 thumb:w-11"
              onClick={() => away.set([...away.get(), s.id])}
            >
              <X size={14} aria-hidden />
            </button>
          </Hint>
        </p>
      ))}
    </section>
  );
}
