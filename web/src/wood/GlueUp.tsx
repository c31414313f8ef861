import { useState } from "react";
import type { Wooden } from "../api/client";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { distance, fixed, type Units } from "../units";
import { useGlueUp } from "./useWood";

/** GlueUp says how many clamps a panel asks for, and how many there are. */
export function GlueUp({ wood, units }: { wood: Wooden; units: Units }) {
  const ask = useGlueUp();
  const [v, setV] = useState({ size: "", strip: "" });
  const [of, setOf] = useState("");
  const [wrong, setWrong] = useState("");
  const go = () => {
    if (v.size.trim() === "") return setWrong("Say the size of the panel.");
    setWrong("");
    ask.mutate({ size: v.size, strip: v.strip, of: of || undefined });
  };
  const field = (key: keyof typeof v, label: string, holds: string, width: string) => (
    <Labelled label={label} width={width}>
      <input
        value={v[key]}
        onChange={(e) => setV({ ...v, [key]: e.target.value })}
        placeholder={holds}
        className="w-full border-b border-line bg-transparent placeholder:text-quiet"
      />
    </Labelled>
  );
  const c = ask.data;
  return (
    <Part title="Are there clamps enough?">
      <form
        className="flex flex-wrap items-baseline gap-x-4 gap-y-1"
        onSubmit={(e) => {
          e.preventDefault();
          go();
        }}
      >
        {field("size", "panel", "along the joints × across × thick", "w-80")}
        {field("strip", "outermost strip and caul", units === "metric" ? "80" : "3", "w-60")}
        <Pick
          label="Which wood"
          value={of}
          choices={[{ value: "", name: "any wood" }, ...wood.kinds.map((k) => ({ value: k.id, name: k.name }))]}
          onPick={setOf}
        />
        <Button kind="main" type="submit" disabled={ask.isPending}>
          Count them
        </Button>
      </form>
      {(wrong || ask.error) && (
        <p className="m-0 mt-1 text-red" role="alert">
          {wrong || ask.error?.message}
        </p>
      )}
      {c && (
        <div className="mt-2" data-testid="clamps">
          <p className="m-0 text-head font-bold">
            {c.count} clamps, {distance(Math.round(c.spacing), units)} apart at most
          </p>
          <p className="m-0">
            {c.have === 0 ? "None here opens so far" : `${c.have} here open so far: ${c.which.join(", ")}`}.{" "}
            {c.short > 0 && <b className="text-red">{c.short} short.</b>}
          </p>
          <p className="m-0 text-small text-quiet">
            Pressure spreads at 45° from each clamp; {fixed(c.pressure, 1)} MPa on the joint, {fixed(c.force / 1000, 1)} kN from each
            (estimates where they are not rated).
          </p>
          <ul className="mt-1 mb-0 list-disc pl-5 text-small">
            {c.says.map((s) => (
              <li key={s} className="first-letter:uppercase">
                {s}.
              </li>
            ))}
          </ul>
        </div>
      )}
    </Part>
  );
}
