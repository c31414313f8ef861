import type { Wooden, WoodPiece } from "../api/client";
import { inMonths } from "../day";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { Do, Menu } from "../ui/Menu";
import { Pick } from "../ui/Pick";
import { Tickbox } from "../ui/Tickbox";
import { TypedIn } from "../ui/TypedIn";
import { useSetWood } from "./useWood";

const shapes = ["board", "sheet", "billet", "moulding", "veneer", "offcut"] as const;

/** ways are where wood goes that leaves. */
const ways = ["the stove", "given away", "sold", "the tip"];

/** PieceForm is what is said of a piece of wood. */
export function PieceForm({
  piece,
  id,
  form,
  wood,
  revision,
}: {
  piece?: WoodPiece;
  id?: string;
  form?: (typeof shapes)[number];
  wood: Wooden;
  revision: number;
}) {
  const set = useSetWood("Noted.");
  const item = piece?.item ?? id ?? "";
  const say = (body: Parameters<typeof set.mutate>[0]["body"]) =>
    set.mutate({ base: revision, id: item, body: piece ? body : { form: form ?? "board", ...body } });
  const field = (label: string, value: string, done: (text: string) => void, width = "w-56") => (
    <Labelled label={label} width={width}>
      <TypedIn key={value} value={value} onDone={done} onTyped={set.reset} className="w-full border-b border-line" />
    </Labelled>
  );
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1">
      <Pick
        label="Which wood"
        value={piece?.of ?? ""}
        choices={[{ value: "", name: "not known" }, ...wood.kinds.map((k) => ({ value: k.id, name: k.name }))]}
        onPick={(of) => say({ of })}
      />
      <Pick
        label="What it is"
        value={piece?.form ?? form ?? "board"}
        choices={shapes.map((s) => ({ value: s, name: s }))}
        onPick={(f) => say({ form: f as (typeof shapes)[number] })}
      />
      {piece && (
        <>
          {field("promised to", piece.promised, (promised) => say({ promised }))}
          {field("came from", piece.source, (source) => say({ source }))}
          <Labelled label="came on" width="w-44">
            <input
              type="date"
              value={piece.came}
              onChange={(e) => say({ came: e.target.value })}
              className="w-full border-b border-line bg-transparent"
            />
          </Labelled>
          {field("flaws", piece.flaws, (flaws) => say({ flaws }))}
          {field(
            "moisture %",
            piece.moisture > 0 ? String(piece.moisture) : "",
            (text) => {
              const v = Number(text.replace(",", "."));
              if (v >= 0 && v <= 200) say({ moisture: v });
            },
            "w-32",
          )}
          {field(
            "price of one",
            piece.price > 0 ? String(piece.price) : "",
            (text) => {
              const v = Number(text.replace(",", "."));
              if (v >= 0) say({ price: v });
            },
            "w-36",
          )}
          <Tickbox on={piece.salvaged} onChange={(salvaged) => say({ salvaged })}>
            salvaged: nails may be in it
          </Tickbox>
          <Tickbox on={piece.across} onChange={(across) => say({ across })}>
            grain across its length
          </Tickbox>
          {field("goes to", piece.goes_to, (goes_to) => say({ goes_to }))}
          {piece.goes_to && (
            <Labelled label="collected on" width="w-44">
              <input
                type="date"
                value={piece.review}
                onChange={(e) => say({ review: e.target.value })}
                className="w-full border-b border-line bg-transparent"
              />
            </Labelled>
          )}
          <Menu name="It goes">
            {ways.map((w) => (
              <Do key={w} onSelect={() => say({ goes_to: w })}>
                {w}
              </Do>
            ))}
            {piece.goes_to && <Do onSelect={() => say({ goes_to: "" })}>it stays after all</Do>}
          </Menu>
          <Button onClick={() => say({ review: inMonths(12) })}>Keep it a year</Button>
          <Button onClick={() => say({ gone: true })}>It is gone</Button>
        </>
      )}
      {!piece && (
        <Button kind="main" onClick={() => say({})}>
          It is wood
        </Button>
      )}
    </div>
  );
}
