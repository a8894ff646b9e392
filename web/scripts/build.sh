#!/usr/bin/env bash
# Installs what the lock file names (only when it has changed) and builds the screens into dist/.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
lock=$(cksum <package-lock.json)
if [ "$(cat node_modules/.lock-stamp 2>/dev/null)" != "$lock" ]; then
  npm ci --no-audit --no-fund
  printf '%s' "$lock" >node_modules/.lock-stamp
fi
sources=$(find src public index.html vite.config.ts tsconfig.json package-lock.json -type f | LC_ALL=C sort | xargs cksum | cksum)
if [ ! -f dist/index.html ] || [ "$(cat dist/.stamp 2>/dev/null)" != "$sources" ]; then
  npm run --silent build
  printf '%s' "$sources" >dist/.stamp
fi
