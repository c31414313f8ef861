import { mine } from "../api/base";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useRef, useState } from "react";
import { api, keys, Refused, unwrap, type Entered, type Surveyed, onto } from "../api/client";
import { keep as keepText } from "../app/stored";
import { reason } from "../reason";

/** Draft is what was typed in a field and could not be taken, and why. */
export interface Draft {
  text: string;
  why: string;
}

/** Answer to an entry: the path of what it added, or why it was refused. */
export interface Taken {
  added: string;
  refused?: string;
}

interface Survey {
  area: string;
  data: Surveyed;
  /** drafts by the path of their field; they outlive a reload */
  drafts: Record<string, Draft>;
  enter: (path: string, text: string, more?: Partial<Entered>) => Promise<Taken>;
  forget: (path: string) => void;
  /** the field the meter is aimed at */
  aim: string;
  setAim: (path: string) => void;
}

export const SurveyContext = createContext<Survey | undefined>(undefined);

/** useNotes is the survey the screen is about. */
export function useNotes(): Survey {
  const s = useContext(SurveyContext);
  if (!s) throw new Error("useNotes outside of the survey");
  return s;
}

export function useSurveyed(area: string) {
  return useQuery({
    queryKey: keys.survey(area),
    queryFn: async () => unwrap(await api.GET("/api/v1/areas/{id}/survey", { params: { path: { id: area } } })),
  });
}

function stored(area: string): Record<string, Draft> {
  try {
    return JSON.parse(localStorage.getItem(mine(`drafts:${area}`)) ?? "{}") as Record<string, Draft>;
  } catch {
    return {};
  }
}

/** useEnter sends entries one after the other, each on the revision the last one made. */
export function useEnter(area: string) {
  const client = useQueryClient();
  const [drafts, setDrafts] = useState(() => stored(area));
  const queue = useRef<Promise<unknown>>(Promise.resolve());

  const keep = useCallback(
    (path: string, draft: Draft | undefined) =>
      setDrafts((old) => {
        if (!draft && !(path in old)) return old;
        const next = { ...old };
        if (draft) next[path] = draft;
        else delete next[path];
        keepText(() => localStorage, mine(`drafts:${area}`), JSON.stringify(next));
        return next;
      }),
    [area],
  );

  const send = useCallback(
    async (entry: Entered): Promise<Taken> => {
      for (let tries = 0; ; tries++) {
        const known = client.getQueryData<Surveyed>(keys.survey(area));
        try {
          const after = unwrap(
            await api.POST("/api/v1/areas/{id}/survey", {
              params: { path: { id: area } },
              headers: onto(known?.revision ?? 0),
              body: { entries: [entry] },
            }),
          );
          client.setQueryData(keys.survey(area), after);
          keep(entry.path, undefined);
          return { added: after.added };
        } catch (e) {
          if (e instanceof Refused && e.problem.status === 412 && tries < 2) {
            // Somebody changed the shop meanwhile: what was typed still holds for its field.
            await client.refetchQueries({ queryKey: keys.survey(area) });
            continue;
          }
          const why = reason(e);
          keep(entry.path, { text: entry.text, why });
          return { added: "", refused: why };
        }
      }
    },
    [area, client, keep],
  );

  const enter = useCallback(
    (path: string, text: string, more?: Partial<Entered>) => {
      const next = queue.current.then(() => send({ path, text, ...more }));
      queue.current = next;
      return next;
    },
    [send],
  );
  const forget = useCallback((path: string) => keep(path, undefined), [keep]);
  return { drafts, enter, forget };
}
