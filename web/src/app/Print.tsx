import { at } from "../api/base";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { Round } from "../api/client";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Radios } from "../ui/Radios";
import { useKept } from "./useKept";
import { centred, shade } from "../ui/windows";

const forms = [
  { value: "pdf", name: "PDF" },
  { value: "svg", name: "SVG" },
  { value: "png", name: "PNG" },
] as const;

const scales = [
  { value: "0", name: "as large as one sheet takes" },
  { value: "10", name: "1 : 10" },
  { value: "20", name: "1 : 20" },
  { value: "25", name: "1 : 25" },
  { value: "50", name: "1 : 50" },
];

/** Print puts a wall, the whole round, the floor plan or a list on paper, or makes a picture of it. */
export default function Print({
  open,
  setOpen,
  round,
  wall,
}: {
  open: boolean;
  setOpen: (on: boolean) => void;
  round: Round;
  wall: number;
}) {
  const [what, setWhat] = useState(`wall ${wall}`);
  const [scale, setScale] = useKept("print scale", "0");
  const [paper, setPaper] = useKept("print paper", round.units === "imperial" ? "Letter" : "A4");
  const [form, setForm] = useKept<(typeof forms)[number]["value"]>("print form", "pdf");
  const e = what.startsWith("wall ") ? round.elevations[Number(what.slice(5))] : undefined;
  const query = new URLSearchParams({ scale, paper });
  if (e) {
    query.set("area", e.area);
    query.set("wall", e.id);
  }
  const href = at(`/api/v1/print/${e ? "wall" : what}/drawing.${form}?${query}`);
  const drawn = what !== "contents" && what !== "list";
  const line = "flex flex-wrap items-center justify-between gap-x-4 border-b border-line/60 py-1.5";
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={shade} />
        <Dialog.Content aria-describedby={undefined} className={`${centred} w-[min(28rem,94vw)] overflow-y-auto`}>
          <Dialog.Title className="mb-2 text-head font-bold">Print or save a picture</Dialog.Title>
          <div className={line}>
            <span>of</span>
            <Pick
              label="What to print"
              value={what}
              onPick={setWhat}
              choices={[
                ...round.elevations.map((s, i) => ({
                  value: `wall ${i}`,
                  name: s.middle ? `What stands in the room${s.title ? `, ${s.title}` : ""}` : s.title,
                })),
                { value: "round", name: "Every wall" },
                { value: "plan", name: "The floor plan" },
                { value: "contents", name: "What lives where, as a list" },
                { value: "list", name: "Everything you own, as a list" },
              ]}
            />
          </div>
          {drawn && (
            <div className={line}>
              <span>to scale</span>
              <Pick label="Scale" value={scale} choices={scales} onPick={setScale} />
            </div>
          )}
          {(form === "pdf" || scale === "0") && (
            <div className={line}>
              <span>paper</span>
              <Radios label="Paper" value={paper} choices={["A4", "A3", "Letter"].map((p) => ({ value: p, name: p }))} onPick={setPaper} />
            </div>
          )}
          <div className={line}>
            <span>as</span>
            <Radios label="File" value={form} choices={forms} onPick={setForm} />
          </div>
          <p className="mt-2 text-small text-quiet">
            {form === "pdf"
              ? drawn && scale !== "0"
                ? "What is larger than a sheet is cut up, with crosses to lay the sheets on each other. Print at 100 %, without “fit to page”, and check the line at the foot of each sheet."
                : "Print at 100 %, without “fit to page”."
              : "One picture of the whole."}
          </p>
          <div className="mt-4 flex items-center gap-5">
            <a
              className="bg-blue px-3 py-1.5 font-bold text-sheet hover:brightness-110"
              href={href}
              target="_blank"
              rel="noreferrer"
              data-testid="print"
              onClick={() => setOpen(false)}
            >
              Open {form.toUpperCase()}
            </a>
            <Dialog.Close asChild>
              <Button>Cancel</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
