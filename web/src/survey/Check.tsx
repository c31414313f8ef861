import { X } from "lucide-react";
import { useState } from "react";
import type { Surveyed } from "../api/client";
import { Pick } from "../ui/Pick";
import { length, type Units, fixed, percent, degrees } from "../units";
import { Entry } from "./Entry";
import { useNotes } from "./useSurvey";
import { Tickbox } from "../ui/Tickbox";
import { Hint } from "../ui/Hint";

/** closing says in one line how the survey stands. */
export function closing(data: Surveyed, units: Units): string {
  const r = data.report;
  if (r.fault) return "does not close";
  if (r.suspect) return "one reading does not fit";
  if (r.walls.filter((w) => w.measured).length < 2) return "not measured yet";
  if (!r.checked) return "nothing checks it yet";
  return `checked, closes within ${length(r.closure, units)}${units === "metric" ? " mm" : ""}`;
}

/** Verdict is what the adjustment says, with what can be done about it. */
export function Fit({ units }: { units: Units }) {
  const { data, enter } = useNotes();
  const r = data.report;
  return (
    <div className="flex flex-col gap-1.5" aria-live="polite" data-testid="closing">
      <p className="text-body">
        before adjustment the walls miss the first corner by <b>{length(r.closure, units)}</b> ({percent(r.share, 1)})
      </p>
      {r.fault && (
        <p role="alert" className="border-l-2 border-red pl-2 text-body text-red">
          {r.fault}. The drawing shows the room as it was before.
        </p>
      )}
      {r.suspect && (
        <div role="alert" className="border-l-2 border-red pl-2 text-body text-red" data-testid="suspect">
          <p className="font-semibold">{r.suspect.says}.</p>
          {r.suspect.rivals.length > 0 && <p className="text-small">It could as well be {r.suspect.rivals.join(", ")}.</p>}
          <Again measure={r.suspect.measure} label="measured again" />
          <button
            className="mt-1 font-semibold text-blue hover:underline"
            onClick={() => void enter(`measures/${r.suspect?.measure}/left_out`, "yes")}
          >
            Leave it out
          </button>
        </div>
      )}
      {r.propose && (
        <div className="border-l-2 border-blue pl-2 text-body">
          <p>{r.propose.says}.</p>
          <Entry
            key={`${r.propose.from}-${r.propose.to}`}
            field={{
              path: `measures/+/diagonal:${r.propose.from}-${r.propose.to}`,
              label: r.propose.name,
              text: "",
              shown: "",
              assumed: false,
              length: true,
              choices: [],
            }}
            follows
          />
        </div>
      )}
    </div>
  );
}

function Again({ measure, label }: { measure: number; label: string }) {
  const { data } = useNotes();
  const m = data.report.measures[measure];
  if (!m) return null;
  return (
    <Entry
      key={measure + m.name}
      field={{ path: `measures/${measure}/value`, label, text: "", shown: "", assumed: false, length: true, choices: [] }}
      follows
    />
  );
}

/** CheckPage lists the readings with what is left between them and the room that fits best. */
export function CheckPage({ units }: { units: Units }) {
  const { data, enter } = useNotes();
  const r = data.report;
  const corners = r.corners.map((c, i) => ({ value: String(i), name: c.name }));
  const [from, setFrom] = useState(0);
  const [to, setTo] = useState(2);
  const [what, setWhat] = useState("diagonal");
  const path =
    what === "diagonal" ? `measures/+/diagonal:${from}-${to}` : what === "angle" ? `measures/+/angle:${from}` : `measures/+/wall:${what}`;
  const off = (m: (typeof r.measures)[number]) =>
    m.kind === "angle" ? degrees(m.residual) : units === "metric" ? fixed(m.residual, 1) : length(m.residual, units);
  return (
    <div className="flex flex-col gap-3">
      <Fit units={units} />
      <table className="w-full border-collapse text-small" data-testid="readings">
        <thead>
          <tr className="border-b border-line text-left text-fine text-quiet">
            <th className="py-1 font-normal">reading</th>
            <th className="text-right font-normal">read</th>
            <th className="text-right font-normal">off by</th>
            <th className="text-right font-normal">
              <Hint says="share of an error that would show">
                <button type="button" className="cursor-help">
                  checked
                </button>
              </Hint>
            </th>
            <th className="text-right font-normal">use</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {r.measures.map((m, i) => (
            <tr
              key={i}
              className={`border-b border-line/60 ${r.suspect?.measure === i ? "font-semibold text-red" : m.left_out ? "text-quiet" : ""}`}
            >
              <td className="py-0.5">{m.name}</td>
              <td className="text-right">{m.kind === "angle" ? `${m.value}°` : length(m.value, units)}</td>
              <td className="text-right">{m.left_out ? "–" : off(m)}</td>
              <td className="text-right">{m.left_out ? "–" : `${percent(m.redundancy)}`}</td>
              <td className="text-right">
                <Tickbox
                  label={`Use ${m.name}`}
                  on={!m.left_out}
                  onChange={(on) => void enter(`measures/${i}/left_out`, on ? "no" : "yes")}
                />
              </td>
              <td className="w-5 text-right">
                <button
                  aria-label={`Delete ${m.name}`}
                  className="text-quiet hover:text-red"
                  onClick={() => void enter(`measures/${i}/remove`, "yes")}
                >
                  <X size={14} />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex flex-wrap items-end gap-2 text-small">
        <span className="narrow text-quiet">another reading:</span>
        <Pick
          label="What was read"
          value={what}
          onPick={setWhat}
          choices={[
            { value: "diagonal", name: "a diagonal" },
            { value: "angle", name: "an angle" },
            ...data.notes.walls.map((w) => ({ value: w.id, name: `wall ${w.id}` })),
          ]}
        />
        {(what === "diagonal" || what === "angle") && (
          <Pick
            label={what === "diagonal" ? "From corner" : "At corner"}
            value={String(from)}
            onPick={(v) => setFrom(Number(v))}
            choices={corners}
          />
        )}
        {what === "diagonal" && <Pick label="To corner" value={String(to)} onPick={(v) => setTo(Number(v))} choices={corners} />}
        <div className="min-w-30 flex-1">
          <Entry key={path} field={{ path, label: "reads", text: "", shown: "", assumed: false, length: true, choices: [] }} follows />
        </div>
      </div>
      <table className="w-full border-collapse text-small">
        <thead>
          <tr className="border-b border-line text-left text-fine text-quiet">
            <th className="py-1 font-normal">corner</th>
            <th className="text-right font-normal">x</th>
            <th className="text-right font-normal">y</th>
            <th className="text-right font-normal">sure to ±</th>
            <th className="text-right font-normal">inside</th>
          </tr>
        </thead>
        <tbody>
          {r.corners.map((c) => (
            <tr key={c.name} className="border-b border-line/60">
              <td className="py-0.5">{c.name}</td>
              <td className="text-right">{length(c.x, units)}</td>
              <td className="text-right">{length(c.y, units)}</td>
              <td className="text-right">{sure(Math.hypot(c.sd_x, c.sd_y), units)}</td>
              <td className="text-right">
                {degrees(c.inside)} <span className="text-quiet">{c.how}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function sure(sd: number, units: Units): string {
  if (sd > 500) return "not measured";
  return units === "metric" ? fixed(sd, 1) : length(sd, units);
}
