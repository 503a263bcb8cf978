import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
  build: { sourcemap: false, chunkSizeWarningLimit: 700 }, // the budget is 250 kB gzipped; tests/browser/test_size.py holds it
  test: { include: ["src/**/*.test.{ts,tsx}"] }, // a file that needs a page says so in its first line
});
