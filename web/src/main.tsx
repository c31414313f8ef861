import "@fontsource-variable/archivo/wdth.css";
import "./styles.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { App } from "./app/App";
import { home, screens } from "./app/screens";
import { ShownProvider } from "./app/shown";

if ((localStorage.getItem("lamp") ?? (window.matchMedia("(prefers-color-scheme: dark)").matches ? "off" : "on")) === "off") document.documentElement.dataset.lamp = "off";

const client = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 30_000 } } });

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <ShownProvider>
          <Routes>
            {screens.map(({ path }) => (
              <Route key={path} path={path} element={null} />
            ))}
            <Route path="*" element={<Navigate to={home.path} replace />} />
          </Routes>
          <App />
        </ShownProvider>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
