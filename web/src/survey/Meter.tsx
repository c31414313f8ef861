import { useQuery } from "@tanstack/react-query";
import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import { api, keys, unwrap } from "../api/client";
import { next } from "./Entry";
import { useNotes } from "./useSurvey";
import { reason } from "../reason";

/**
 * Meter is the panel of the distance meter. A real one types into the field in
 * focus by itself; the simulated one is pressed here.
 */
export function Meter({ imperial }: { imperial: boolean }) {
  const state = useQuery({ queryKey: keys.meter, queryFn: async () => unwrap(await api.GET("/api/v1/meter")), staleTime: Infinity }).data;
  const { aim, enter } = useNotes();
  const [unit, setUnit] = useState<"m" | "ft">(imperial ? "ft" : "m");
  const [shown, setShown] = useState("––––");
  const [why, setWhy] = useState("");
  if (!state?.there)
    return (
      <p className="text-small text-quiet">A meter that types like a keyboard needs nothing here: put the cursor in a field and measure.</p>
    );

  const press = async () => {
    try {
      const { text } = unwrap(await api.POST("/api/v1/meter/press", { body: { aim, unit } }));
      setShown(text);
      setWhy("");
      const input = document.querySelector<HTMLInputElement>(`input[data-path="${aim}"]`);
      const taken = await enter(aim, text, { with: "laser" });
      if (!taken.refused && input) next(input);
      else input?.focus();
    } catch (e) {
      setWhy(reason(e));
    }
  };
  return (
    <div className="flex flex-col gap-1" data-testid="meter">
      <p className="text-small text-red">
        {state.simulated ? "Simulated: no real meter is connected. It measures the demo room." : state.name}
      </p>
      <output className="border border-ink bg-paper px-2 py-1 text-right text-head font-bold" aria-label="Reading">
        {shown}
      </output>
      <div className="flex items-center justify-between gap-2">
        <ToggleGroup.Root
          type="single"
          value={unit}
          onValueChange={(v) => v && setUnit(v as "m" | "ft")}
          aria-label="Unit of the meter"
          className="flex border border-line"
        >
          {["m", "ft"].map((u) => (
            <ToggleGroup.Item key={u} value={u} className="px-2 py-0.5 text-small data-[state=on]:bg-ink data-[state=on]:text-paper">
              {u}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
        <button
          className="bg-blue px-4 py-1 font-bold text-sheet hover:brightness-110 disabled:opacity-60"
          disabled={aim === ""}
          // The field keeps the cursor: the meter reads into it.
          onPointerDown={(e) => e.preventDefault()}
          onClick={() => void press()}
        >
          Measure
        </button>
      </div>
      <p className="narrow truncate text-fine text-quiet">
        {aim === "" ? "put the cursor in a field first" : `aimed at ${aim.replaceAll("/", " ")}`}
      </p>
      {why && (
        <p role="alert" className="text-fine text-red">
          {why}
        </p>
      )}
    </div>
  );
}
