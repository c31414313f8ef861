import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { Ruler } from "lucide-react";
import { at } from "../api/base";
import { api, onto, Refused, unwrap, type Item, type Problem } from "../api/client";
import { useChange } from "../app/shop";
import type { components } from "../api/schema.gen";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Pick } from "../ui/Pick";
import { length, typedLength, type Units } from "../units";
import { reduced } from "./reduce";

type Found = components["schemas"]["OutlineFound"];

const papers = [
  { value: "a4", name: "A4" },
  { value: "a3", name: "A3" },
  { value: "letter", name: "Letter" },
];

interface Said {
  sheet: string;
  tall: string;
  camera: string;
}

function address(path: string, said: Said, mm: number) {
  const query = new URLSearchParams({ sheet: said.sheet });
  for (const k of ["tall", "camera"] as const) {
    const v = Number(said[k].replace(",", "."));
    if (v > 0) query.set(k, String(v * mm));
  }
  return at(`/api/v1/outline${path}?${query}`);
}

async function asked(url: string, file: Blob) {
  const answer = await fetch(url, { method: "POST", body: await reduced(file) });
  if (!answer.ok) throw new Refused((await answer.json().catch(() => ({}))) as Problem);
  return answer;
}

/** useKeepOutline keeps the outline of a thing; none forgets it. */
function useKeepOutline() {
  return useChange(
    async (v: { base: number; id: string; outline: number[][]; turn?: boolean }) =>
      unwrap(
        await api.PUT("/api/v1/items/{id}/outline", {
          params: { path: { id: v.id } },
          headers: onto(v.base),
          body: { outline: v.outline, turn: v.turn },
        }),
      ),
    () => "Noted.",
  );
}

/** Measure finds the outline and the size of a thing from a photograph of it on a sheet of paper. */
export function Measure({
  units,
  item,
  revision,
  onSize,
  busy,
}: {
  units: Units;
  item: Item;
  revision: number;
  onSize: (w: string, h: string) => void;
  busy: boolean;
}) {
  const keep = useKeepOutline();
  const [open, setOpen] = useState(false);
  const [file, setFile] = useState<File>();
  const [said, setSaid] = useState<Said>({ sheet: units === "metric" ? "a4" : "letter", tall: "", camera: "" });
  const mm = units === "metric" ? 1 : 25.4;
  const find = useMutation({ mutationFn: async (f: File) => (await (await asked(address("", said, mm), f)).json()) as Found });
  const print = useMutation({
    mutationFn: async (form: string) => {
      if (!file) return;
      const blob = await (await asked(address(`/template.${form}`, said, mm), file)).blob();
      const url = URL.createObjectURL(blob);
      window.open(url, "_blank", "noopener");
      setTimeout(() => URL.revokeObjectURL(url), 60_000);
    },
  });
  if (!open)
    return (
      <p className="mt-1 mb-0 flex flex-wrap items-center gap-x-4">
        <button type="button" onClick={() => setOpen(true)} className="flex items-center gap-1.5 font-semibold text-blue hover:underline">
          <Ruler size={16} aria-hidden />
          Measure it from a photograph
        </button>
        {item.outline && (
          <Button disabled={keep.isPending} onClick={() => keep.mutate({ base: revision, id: item.id, outline: [] })}>
            Forget its outline
          </Button>
        )}
      </p>
    );
  const f = find.data;
  const unit = units === "metric" ? "mm" : "in";
  const field = (key: "tall" | "camera", label: string) => (
    <Labelled label={label} after={unit} width="w-52">
      <input
        value={said[key]}
        inputMode="decimal"
        onChange={(e) => setSaid({ ...said, [key]: e.target.value })}
        className="w-14 border-b border-line bg-transparent text-right"
      />
    </Labelled>
  );
  return (
    <div className="mt-2 border-t border-line pt-2" data-testid="measure">
      <p className="m-0 mb-1 text-small text-quiet">
        Lay it on the middle of a white sheet on something dark; all four corners in the picture, from about above.
      </p>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="flex items-baseline gap-1.5">
          <span className="text-quiet">on a sheet</span>
          <Pick label="Sheet it lies on" value={said.sheet} choices={papers} onPick={(sheet) => setSaid({ ...said, sheet })} />
        </span>
        {field("tall", "it stands up")}
        {field("camera", "camera was over it")}
      </div>
      <label className="mt-2 inline-flex cursor-pointer items-center gap-1.5 font-semibold text-blue focus-within:outline-2 focus-within:outline-blue hover:underline">
        {find.isPending ? "Following its outline …" : f ? "Another photograph" : "Choose the photograph"}
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          aria-label="Photograph of it on a sheet"
          className="sr-only"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = "";
            if (!chosen) return;
            setFile(chosen);
            find.mutate(chosen);
          }}
        />
      </label>
      {(find.error ?? print.error) && (
        <p className="m-0 mt-1 text-red" role="alert">
          {(find.error ?? print.error)?.message}
        </p>
      )}
      {f && (
        <>
          <svg
            viewBox={`-2 -2 ${f.w + 4} ${f.h + 4}`}
            className="mt-2 block max-h-56 w-full"
            role="img"
            aria-label={`Outline, ${length(f.w, units)} by ${length(f.h, units)}`}
          >
            <polygon
              points={f.outline.map((q) => `${q[0]},${f.h - (q[1] ?? 0)}`).join(" ")}
              fill="var(--line)"
              stroke="var(--ink)"
              vectorEffect="non-scaling-stroke"
            />
          </svg>
          <p className="m-0 mt-1">
            <b>
              {length(f.w, units)} × {length(f.h, units)}
            </b>
            ; {f.says.join("; ")}.
          </p>
          <p className="mt-1 mb-0 flex flex-wrap gap-x-4 gap-y-1">
            <Button
              kind="main"
              disabled={keep.isPending}
              onClick={() => keep.mutate({ base: revision, id: item.id, outline: f.outline, turn: f.w > f.h !== item.w > item.h })}
            >
              Keep this outline
            </Button>
            <Button disabled={busy} onClick={() => onSize(typedLength(f.w, units), typedLength(f.h, units))}>
              Take the size alone
            </Button>
            <Button disabled={print.isPending} onClick={() => print.mutate("pdf")}>
              Print it at full size
            </Button>
            <Button disabled={print.isPending} onClick={() => print.mutate("dxf")}>
              DXF
            </Button>
          </p>
        </>
      )}
    </div>
  );
}
