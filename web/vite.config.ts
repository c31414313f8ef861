import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Which files a screen needs is not listed beforehand: the list would be in the first load, and the machine is near.
  build: { outDir: "dist", emptyOutDir: false, chunkSizeWarningLimit: 700, modulePreload: false },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
  test: {
    environment: "happy-dom",
    environmentOptions: { happyDOM: { url: "http://localhost:8080" } },
    // One window for all of them: to make one for each takes most of the time.
    isolate: false,
    include: ["src/**/*.test.{ts,tsx}"],
  },
});
