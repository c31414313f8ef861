import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, keys, unwrap } from "../api/client";
import { reason } from "../reason";

/**
 * Weigh reads the scale into the weight that is open. A scale that types like a
 * keyboard does it by itself; the simulated one is read here.
 */
export function Weigh({ id, onRead }: { id: string; onRead: (text: string) => void }) {
  const scale = useQuery({ queryKey: keys.scale, queryFn: async () => unwrap(await api.GET("/api/v1/scale")), staleTime: Infinity }).data;
  const [why, setWhy] = useState("");
  if (!scale?.there) return null;
  const read = async () => {
    try {
      onRead(unwrap(await api.POST("/api/v1/items/{id}/weigh", { params: { path: { id } } })).text);
      setWhy("");
    } catch (e) {
      setWhy(reason(e));
    }
  };
  return (
    <div className="absolute top-full right-0 z-20 border border-ink bg-paper px-2 py-1 text-fine whitespace-nowrap text-ink not-italic">
      <button
        tabIndex={-1}
        className="font-bold text-blue hover:underline"
        // The field keeps the cursor: the scale reads into it.
        onMouseDown={(e) => e.preventDefault()}
        onClick={() => void read()}
      >
        Read the scale
      </button>
      {scale.simulated && <span className="text-red"> simulated</span>}
      {why && (
        <p role="alert" className="max-w-60 whitespace-normal text-red">
          {why}
        </p>
      )}
    </div>
  );
}
