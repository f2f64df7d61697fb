#!/usr/bin/env bash
# Installs the project's packages, with what their native parts need.
set -euo pipefail
cd "$(dirname "$0")/.."
as_root() { if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else echo "needs root to run: $*" >&2; return 1; fi; }
node -e 'const [a, b] = process.versions.node.split(".").map(Number); if (a < 20 || (a === 20 && b < 19)) { console.error(`Veldtwind needs Node 20.19 or newer; this is ${process.version}.`); process.exit(1) }'
if [ ! -d node_modules ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  npm ci --no-audit --no-fund
fi
# Some npm versions leave install scripts out until they are allowed; the database driver needs its own.
if ! node -e 'new (require("better-sqlite3"))(":memory:")' 2>/dev/null; then
  npm rebuild better-sqlite3 esbuild @swc/core >/dev/null 2>&1 || true
fi
if ! node -e 'new (require("better-sqlite3"))(":memory:")' 2>/dev/null; then
  if ! command -v g++ >/dev/null || ! command -v make >/dev/null || ! command -v python3 >/dev/null; then
    as_root apt-get update -qq && as_root apt-get install -y -qq g++ make python3
  fi
  npm rebuild better-sqlite3
fi
