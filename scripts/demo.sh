#!/usr/bin/env bash
# npm run demo: installs, builds, loads the demo project and serves it.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/install.sh
npm run --silent build >/dev/null
exec node --import tsx demo/src/run.ts
