import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: {
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "antd", test: /node_modules\/(antd|@ant-design|@rc-component|rc-)/ },
            { name: "react", test: /node_modules\/(react|react-dom|react-router|scheduler)\// },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: {
    environment: "jsdom",
    setupFiles: ["src/test-setup.ts"],
    reporters: ["dot", ["json", { outputFile: "target/vitest.json" }]],
    coverage: {
      provider: "v8",
      include: ["src/**/*.{ts,tsx}"],
      exclude: ["src/api/schema.ts", "src/**/*.test.{ts,tsx}", "src/test-setup.ts"],
      reporter: ["json-summary"],
      reportsDirectory: "target/coverage",
      thresholds: { lines: 30 },
    },
    testTimeout: 30_000, // ends what hangs; how fast a test is says nothing on a shared machine
  },
});
