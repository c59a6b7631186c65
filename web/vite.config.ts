import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { serviceWorker } from "./tools/serviceWorker.ts";

export default defineConfig({
  plugins: [react(), tailwindcss(), serviceWorker()],
  // Built into the Python package, which serves it.
  build: { outDir: "../src/vivid_lattice/web_dist", emptyOutDir: true, chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
  // Threads that are kept from file to file: each test takes back what it puts into globals and timers.
  test: { include: ["src/**/*.test.{ts,tsx}"], pool: "threads", isolate: false },
});
