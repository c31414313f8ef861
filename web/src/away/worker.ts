import { found, kept } from "./answers";

/** What of a service worker is used here; the library of types for workers and that for pages do not go together. */
interface Awaited {
  waitUntil: (p: Promise<unknown>) => void;
}
interface Asked extends Awaited {
  request: Request;
  respondWith: (answer: Promise<Response>) => void;
}
interface Worker {
  addEventListener: ((type: "install" | "activate", listen: (e: Awaited) => void) => void) &
    ((type: "fetch", listen: (e: Asked) => void) => void);
  skipWaiting: () => Promise<void>;
  clients: { claim: () => Promise<void> };
  location: Location;
}
const worker = self as unknown as Worker;

/** files of the interface, written in when it is built; their names change with what is in them. */
const files: readonly string[] = JSON.parse("__FILES__") as string[];

const shell = "hobrak pages";
const answers = "hobrak answers";

/** patience is how long the shop's machine is waited for before what is kept is shown, ms. */
const patience = 4000;

/** mostKept answers are kept: the oldest go. */
const mostKept = 400;

worker.addEventListener("install", (e) => {
  e.waitUntil(
    (async () => {
      const cache = await caches.open(shell);
      const had = new Set((await cache.keys()).map((r) => new URL(r.url).pathname));
      await Promise.all(files.filter((f) => !had.has(f)).map((f) => cache.add(f)));
      await cache.put("/", await fetch("/", { cache: "no-store" }));
      await worker.skipWaiting();
    })(),
  );
});

worker.addEventListener("activate", (e) => {
  e.waitUntil(
    (async () => {
      // Files of the interface as it was before are of no use any more.
      const cache = await caches.open(shell);
      for (const r of await cache.keys()) {
        const path = new URL(r.url).pathname;
        if (path !== "/" && !files.includes(path)) await cache.delete(r);
      }
      await worker.clients.claim();
    })(),
  );
});

worker.addEventListener("fetch", (e) => {
  const url = new URL(e.request.url);
  if (e.request.method !== "GET" || url.origin !== worker.location.origin) return;
  if (url.pathname.startsWith("/assets/")) e.respondWith(file(e.request));
  else if (e.request.mode === "navigate") e.respondWith(page(e.request));
  else if (kept(url.pathname)) e.respondWith(answer(e.request, url));
});

/** file of the interface: what was kept is never otherwise. */
async function file(request: Request): Promise<Response> {
  return (await caches.match(request)) ?? fetch(request);
}

/** page of the interface: from the machine, or as it was. */
async function page(request: Request): Promise<Response> {
  try {
    return await inTime(fetch(request));
  } catch {
    return (await caches.match("/")) ?? Response.error();
  }
}

/** answer of the shop: from the machine, or as it was when it last came. */
async function answer(request: Request, url: URL): Promise<Response> {
  const cache = await caches.open(answers);
  try {
    const fresh = await inTime(fetch(request));
    if (fresh.status === 200) {
      await cache.put(request.url, stamped(fresh.clone(), await fresh.clone().blob()));
      const all = await cache.keys();
      await Promise.all(all.slice(0, Math.max(0, all.length - mostKept)).map((r) => cache.delete(r)));
    }
    return fresh;
  } catch (e) {
    const was = await cache.match(request.url);
    if (was) return was;
    if (url.pathname.endsWith("/find")) {
      const round = await cache.match(new URL(url.pathname.replace(/find$/, "round"), url).href);
      if (round) {
        const body = (await round.json()) as { round: Parameters<typeof found>[0] };
        return Response.json(found(body.round, url.searchParams.get("q") ?? ""), { headers: { "X-Kept": "1" } });
      }
    }
    throw e;
  }
}

/** stamped says when an answer came. */
function stamped(answer: Response, body: Blob): Response {
  const headers = new Headers(answer.headers);
  headers.set("X-Kept", new Date().toISOString());
  headers.delete("Content-Encoding"); // it is unpacked by now
  headers.delete("Content-Length");
  return new Response(body, { status: 200, headers });
}

/** inTime gives up on what does not come. */
function inTime(asked: Promise<Response>): Promise<Response> {
  return Promise.race([
    asked,
    new Promise<Response>((_, fail) => {
      setTimeout(() => fail(new Error("the shop's machine does not answer")), patience);
    }),
  ]);
}
