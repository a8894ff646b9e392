// Fails where src/shared/api/schema.ts is not what src/shared/api/openapi.json generates.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const folder = mkdtempSync(join(tmpdir(), "mandala-api-"));
const fresh = join(folder, "schema.ts");
execFileSync("node_modules/.bin/openapi-typescript", ["src/shared/api/openapi.json", "-o", fresh], {
  stdio: "ignore",
});
const current = readFileSync("src/shared/api/schema.ts", "utf8") === readFileSync(fresh, "utf8");
rmSync(folder, { recursive: true });
if (!current) {
  console.error("src/shared/api/schema.ts is not current. Run: npm run api");
  process.exit(1);
}
