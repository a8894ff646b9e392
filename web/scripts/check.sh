#!/usr/bin/env bash
# Format, lint, generated types, size of pages, unit tests.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
npm run --silent format:check
npm run --silent lint
npm run --silent api:check
npm run --silent size
npm run --silent test
