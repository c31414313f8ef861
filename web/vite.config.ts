import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";

/** Which files the interface has is written into what keeps them on a phone. */
const listFiles: Plugin = {
  name: "list-files",
  enforce: "post",
  generateBundle(_, bundle) {
    const worker = bundle["worker.js"];
    if (worker?.type !== "chunk") this.error("the worker was not built");
    const names = Object.keys(bundle).filter(
      (n) => n.startsWith("assets/") && /\.(js|css|woff2)$/.test(n) && !/vietnamese|latin-ext/.test(n),
    );
    worker.code = worker.code.replace("__FILES__", JSON.stringify(names.map((n) => `/${n}`)).replaceAll('"', '\\"'));
  },
};

export default defineConfig({
  plugins: [react(), tailwindcss(), listFiles],
  // Which files a screen needs is not listed beforehand: the list would be in the first load, and the machine is near.
  build: {
    outDir: "dist",
    emptyOutDir: false,
    chunkSizeWarningLimit: 700,
    modulePreload: false,
    rollupOptions: {
      input: { index: "index.html", worker: "src/away/worker.ts" },
      output: { entryFileNames: (c) => (c.name === "worker" ? "worker.js" : "assets/[name]-[hash].js") },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
  test: {
    environment: "happy-dom",
    environmentOptions: { happyDOM: { url: "http://localhost:8080" } },
    // One window for all of them: to make one for each takes most of the time.
    isolate: false,
    include: ["src/**/*.test.{ts,tsx}"],
  },
});
