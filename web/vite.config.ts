import react from "@vitejs/plugin-react";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  resolve: { alias: { "@": fileURLToPath(new URL("src", import.meta.url)) } },
  build: {
    manifest: true, // for scripts/page-size.mjs
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "react", test: /node_modules\/(react|react-dom|react-router|scheduler)\// },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: {
    environment: "jsdom",
    setupFiles: ["src/shared/testing/setup.ts"],
    reporters: ["dot", ["json", { outputFile: "target/vitest.json" }]],
    coverage: {
      provider: "v8",
      include: ["src/**/*.{ts,tsx}"],
      exclude: ["src/shared/api/schema.ts", "src/**/*.test.{ts,tsx}", "src/shared/testing/**"],
      reporter: ["json-summary"],
      reportsDirectory: "target/coverage",
      thresholds: { lines: 45 },
    },
    isolate: false, // test files of a worker share the modules that they load
    maxWorkers: 2, // as many as processors: what is left over by default is one of two
    testTimeout: 30_000, // ends what hangs; how fast a test is says nothing on a shared machine
  },
});
