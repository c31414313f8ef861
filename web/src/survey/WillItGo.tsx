import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, Refused, unwrap, type Verdict } from "../api/client";
import { length, type Units } from "../units";
import { reason } from "../reason";

const does = { longest: "longest that goes", come_in: "comes in", turn: "turns", stand_up: "stands up" };

/** WillItGo answers whether a piece comes in, turns and stands up. */
export function WillItGo({
  area,
  revision,
  units,
  onSpot,
}: {
  area: string;
  revision: number;
  units: Units;
  onSpot: (v: Verdict | undefined) => void;
}) {
  const [sides, setSides] = useState(["", "", ""]);
  const [verdicts, setVerdicts] = useState<Verdict[]>();
  const [why, setWhy] = useState<{ side: number; text: string }>();
  const figures = useQuery({
    queryKey: keys.figures(area, revision),
    queryFn: async () => unwrap(await api.GET("/api/v1/areas/{id}/figures", { params: { path: { id: area } } })),
  }).data;

  const ask = async () => {
    try {
      const out = unwrap(await api.POST("/api/v1/areas/{id}/will-it-go", { params: { path: { id: area } }, body: { sides } }));
      setVerdicts(out);
      setWhy(undefined);
      onSpot(out.find((v) => !v.fits) ?? out[2]);
    } catch (e) {
      const at = e instanceof Refused ? Number(/\[(\d)\]/.exec(e.problem.errors?.[0]?.location ?? "")?.[1] ?? 0) : 0;
      setWhy({ side: at, text: reason(e) });
    }
  };
  const say = (mm: number) => (mm > 0 ? length(mm, units) : "–");
  return (
    <form
      data-testid="will-it-go"
      onSubmit={(e) => {
        e.preventDefault();
        void ask();
      }}
    >
      <div className="flex items-end gap-1.5">
        {["length", "width", "thick"].map((name, i) => (
          <label key={name} className="narrow min-w-0 flex-1 text-fine text-quiet">
            {name}
            <input
              value={sides[i]}
              onChange={(e) => setSides(sides.map((s, k) => (k === i ? e.target.value : s)))}
              aria-invalid={why?.side === i || undefined}
              placeholder={units === "imperial" ? ["8'", "4'", '3/4"'][i] : ["2440", "1220", "18"][i]}
              className={`w-full border-b bg-transparent px-1 py-0.5 text-right text-lead font-semibold text-ink placeholder:font-normal placeholder:text-quiet ${why?.side === i ? "border-red" : "border-line"}`}
            />
          </label>
        ))}
        <button className="bg-blue px-2.5 py-1 font-bold text-sheet hover:brightness-110" disabled={sides.some((s) => s.trim() === "")}>
          Ask
        </button>
      </div>
      {why && (
        <p role="alert" className="mt-1 text-fine text-red">
          {why.text}
        </p>
      )}
      {verdicts && (
        <ul className="m-0 mt-1.5 list-none p-0 text-small" aria-live="polite">
          {verdicts.map((v) => (
            <li key={v.what} className={v.fits ? "" : "text-red"}>
              <b>{v.fits ? "yes" : "no"}</b> {v.says}
            </li>
          ))}
        </ul>
      )}
      {figures && (
        <div className="mt-1.5 text-small">
          <table className="w-full border-collapse">
            <thead>
              <tr className="text-right text-fine text-quiet">
                <td />
                <th className="font-normal">board</th>
                <th className="font-normal">sheet</th>
              </tr>
            </thead>
            <tbody>
              {(["longest", "come_in", "turn", "stand_up"] as const).map((k) => (
                <tr key={k} className={`text-right ${k === "longest" ? "font-bold" : ""}`}>
                  <th className="narrow text-left font-[inherit]">{does[k]}</th>
                  <td>{say(figures.board[k])}</td>
                  <td>{say(figures.sheet[k])}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="narrow text-fine text-quiet">
            board 200 wide, 25 thick; sheet twice as long as wide, 18 thick; outside counts as free
            {figures.board.come_in === 0 && "; no door is entered yet"}
          </p>
        </div>
      )}
    </form>
  );
}
