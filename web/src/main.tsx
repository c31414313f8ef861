import "./styles.css";
import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { base } from "./api/base";
import { Routing } from "./app/Routing";
import { screens } from "./app/screens";
import { keepAnswers, keeps } from "./away/away";
import { lamp } from "./app/shown";
import { sayReason } from "./reason";

if (lamp.get() === "off" || (lamp.get() === "" && window.matchMedia("(prefers-color-scheme: dark)").matches))
  document.documentElement.dataset.lamp = "off";

// What nobody else says is said here: a change that did not go through, and what was awaited by nobody.
window.addEventListener("unhandledrejection", (e) => sayReason(e.reason));

const client = new QueryClient({
  mutationCache: new MutationCache({ onError: (e, _v, _c, m) => !m.options.onError && sayReason(e) }),
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 30_000 } },
});

const render = () =>
  createRoot(document.getElementById("root") as HTMLElement).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Routing />
      </QueryClientProvider>
    </StrictMode>,
  );

// With the code of the screen there from the start, nothing else is shown in its stead: React would keep that up for
// 0.3 s. What does not come soon is waited for on screen, and what fails is said there.
const path = location.pathname.slice(base.length);
const screen = screens.find((s) => s.path === path);
const soon = new Promise((done) => setTimeout(done, 500));
void Promise.race([soon, screen?.fetch?.().catch(() => undefined)]).then(render);

// Where it is kept for when the machine is out of reach, it is kept after everything else is there.
if (keeps()) setTimeout(() => void keepAnswers().catch(() => undefined), 4000);
