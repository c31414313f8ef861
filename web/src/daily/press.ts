import type { QueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { toast } from "sonner";
import { mine } from "../api/base";
import { api } from "../api/client";
import { happened } from "../app/shop";
import { Queue, type Answered, type Kept, type Press, type TapBody } from "./queue";

const name = mine("presses");
const nothing: Kept = { waiting: [], refused: [] };
let last = { text: "", kept: nothing };

/** read what waits; the same text gives the same object, so that nothing is drawn anew for nothing. */
function read(): Kept {
  let text = "";
  try {
    text = localStorage.getItem(name) ?? "";
  } catch {
    return last.kept; // a browser that keeps nothing: as long as the page is open
  }
  if (text !== last.text) last = { text, kept: text === "" ? nothing : (JSON.parse(text) as Kept) };
  return last.kept;
}

function write(kept: Kept) {
  last = { text: JSON.stringify(kept), kept };
  try {
    localStorage.setItem(name, last.text);
  } catch {
    // Kept as long as the page is open.
  }
}

async function send(press: Press, ago: number): Promise<Answered> {
  try {
    const { data, error, response } = await api.POST("/api/v1/taps", { body: { ...press.body, key: press.key, ago } });
    if (data) return { kind: "done", says: data.says, events: data.events.map((e) => e.id ?? 0) };
    if (response.status >= 500 || response.status === 401 || response.status === 429) return { kind: "lost" };
    return { kind: "refused", why: (error as { detail?: string } | undefined)?.detail ?? "It was refused." };
  } catch {
    return { kind: "lost" };
  }
}

const queue = new Queue({ read, write }, send);

/** useWaiting is what waits to be sent, and what was refused. */
export const useWaiting = () => useSyncExternalStore(queue.watch, queue.kept);

/** forget a press that was refused. */
export const forget = (key: string) => queue.forget(key);

/** flush sends what waits, once the shop's machine answers again. */
export async function flush(client: QueryClient) {
  if (queue.kept().waiting.length === 0) return;
  await queue.flush();
  happened(client);
}

/** own is a key that no other press has, also where the browser makes none. */
const own = () =>
  typeof crypto.randomUUID === "function"
    ? crypto.randomUUID()
    : Array.from(crypto.getRandomValues(new Uint32Array(4)), (n) => n.toString(36)).join("");

/** press takes, puts back or lends: at once where that is possible, later where the shop's machine is out of reach. */
export async function press(client: QueryClient, body: TapBody, words: string): Promise<boolean> {
  const key = own();
  const answer = await queue.add({ key, at: Date.now(), body, words });
  happened(client);
  switch (answer.kind) {
    case "done":
      toast(answer.says, { action: { label: "Take back", onClick: () => void undo(client, answer.events) } });
      return true;
    case "refused":
      queue.forget(key); // it is said at once
      toast.error(answer.why);
      return false;
    default:
      toast(`${words}: kept here, and sent when the shop's machine answers again.`);
      return true;
  }
}

/** undo takes back what was noted. */
async function undo(client: QueryClient, events: readonly number[]) {
  for (const id of [...events].reverse()) await api.POST("/api/v1/events", { body: { what: "taken-back", corrects: id } });
  happened(client);
}
