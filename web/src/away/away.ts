import { stored } from "../app/stored";

/** here is whether the page comes from the machine it is shown on: then there is nothing to keep for when it is away. */
const here = ["localhost", "127.0.0.1", "[::1]"].includes(location.hostname);

/** keeping is whether this device keeps the interface and the last answers: "on", "off", or as usual. */
export const keeping = stored<"" | "on" | "off">("keep answers", "");

/** able is whether the browser can: it wants an address that it trusts. */
export const able = "serviceWorker" in navigator && window.isSecureContext;

/** keeps tells whether it does. */
export const keeps = () => able && (keeping.get() === "on" || (keeping.get() === "" && !here));

/** keepAnswers begins to keep, or stops and forgets. */
export async function keepAnswers() {
  if (!able) return;
  if (keeps()) {
    // What can be installed says so only where it is kept.
    const link = document.createElement("link");
    link.rel = "manifest";
    link.href = "/manifest.webmanifest";
    document.head.append(link);
    await navigator.serviceWorker.register("/worker.js");
    return;
  }
  for (const r of await navigator.serviceWorker.getRegistrations()) await r.unregister();
  for (const name of await caches.keys()) if (name.startsWith("hobrak ")) await caches.delete(name);
}
