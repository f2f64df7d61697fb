#!/usr/bin/env bash
# npm run check: linter, type checkers and formatter, two at a time.
set -uo pipefail
cd "$(dirname "$0")/.."
out=$(mktemp)
npm run --silent lint >"$out" 2>&1 &
lint=$!
status=0
npm run --silent types || status=1
npm run --silent format:check || status=1
wait "$lint" || status=1
cat "$out"
rm -f "$out"
exit $status
