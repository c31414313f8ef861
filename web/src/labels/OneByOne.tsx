import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { at } from "../api/base";
import { api, keys, unwrap } from "../api/client";
import { useKept } from "../app/useKept";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Labelled } from "../ui/Labelled";
import { TypedIn } from "../ui/TypedIn";

/** OneByOne prints labels from a roll, where there is a printer for that. */
export function OneByOne({ only, codes, base }: { only: readonly string[]; codes: boolean; base: string }) {
  const client = useQueryClient();
  const [size, setSize] = useKept("roll label", { w: 62, h: 29 });
  const printer = useQuery({ queryKey: keys.labelPrinter, queryFn: async () => unwrap(await api.GET("/api/v1/label-printer")) }).data;
  const print = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST("/api/v1/label-printer", { body: { only: only.slice(0, 200), w: size.w, h: size.h, codes, base } })),
    onSuccess: (p) => client.setQueryData(keys.labelPrinter, p),
    onError: (e) => toast.error(e.message),
  });
  if (!printer?.there) return null;
  const side = (key: "w" | "h", label: string) => (
    <Labelled label={label} after="mm" width="w-32">
      <TypedIn
        key={size[key]}
        value={String(size[key])}
        onDone={(text) => {
          const v = Number(text.replace(",", "."));
          if (v >= 10 && v <= 300) setSize({ ...size, [key]: v });
        }}
        onTyped={() => undefined}
        className="w-12 border-b border-line text-right"
      />
    </Labelled>
  );
  return (
    <Part title={printer.name}>
      <div className="flex flex-wrap gap-x-3">
        {side("w", "width")}
        {side("h", "height")}
      </div>
      <p className="mt-1 mb-0">
        <Button disabled={print.isPending || only.length === 0} onClick={() => print.mutate()}>
          Print {only.length === 1 ? "one label" : `${Math.min(200, only.length)} labels`} one by one
        </Button>
      </p>
      {printer.tray.length > 0 && (
        <div className="mt-1 max-h-64 overflow-y-auto border border-line p-1" role="region" aria-label="Tray" tabIndex={0}>
          {printer.tray.slice(0, 12).map((l) => (
            <img
              key={l.n}
              src={at(`/api/v1/label-printer/${l.n}`)}
              alt={`Label ${l.n}`}
              className="mb-1 w-full border border-line bg-white"
            />
          ))}
        </div>
      )}
    </Part>
  );
}
