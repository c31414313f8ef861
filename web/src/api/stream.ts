import { Refused, type Problem, onto } from "./client";

/** Told is one event of a stream. */
export interface Told {
  event: string;
  data: unknown;
}

/** told posts to a path that answers with a stream and gives its events as they come. */
export async function* told(path: string, base: number, body: unknown, signal?: AbortSignal): AsyncGenerator<Told> {
  const answer = await fetch(path, {
    method: "POST",
    headers: { "Content-Type": "application/json", ...onto(base) },
    body: JSON.stringify(body),
    signal,
  });
  if (!answer.ok || !answer.body) throw new Refused((await answer.json().catch(() => ({}))) as Problem);
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    rest += value;
    const blocks = rest.split("\n\n");
    rest = blocks.pop() ?? "";
    for (const block of blocks) {
      const event = /^event: (.*)$/m.exec(block)?.[1] ?? "message";
      const data = /^data: (.*)$/m.exec(block)?.[1];
      if (data) yield { event, data: JSON.parse(data) };
    }
  }
}
