// Prints the script that each page loads, in kB compressed, and fails where it is over the limit.
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

const LIMIT = 450;
const manifest = JSON.parse(readFileSync("dist/.vite/manifest.json", "utf8"));

function loaded(name, seen = new Set()) {
  if (seen.has(name)) return seen;
  seen.add(name);
  for (const it of manifest[name].imports ?? []) loaded(it, seen);
  return seen;
}

const size = (name) => gzipSync(readFileSync(`dist/${manifest[name].file}`)).length / 1000;
const pages = Object.keys(manifest).filter((it) => manifest[it].isDynamicEntry);
if (pages.length < 10) throw new Error(`The build has ${pages.length} pages: is it whole?`);
const sizes = pages
  .map((page) => [page, [...loaded(page, loaded("index.html"))].reduce((sum, it) => sum + size(it), 0)])
  .sort((a, b) => b[1] - a[1]);
for (const [page, kB] of sizes) console.log(`${kB.toFixed(0).padStart(4)} kB  ${page}`);
const [largest, most] = sizes[0];
if (most > LIMIT) {
  console.error(`${largest} loads ${most.toFixed(0)} kB of script; the limit is ${LIMIT} kB. Load a heavy part lazily.`);
  process.exit(1);
}
