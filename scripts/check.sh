#!/usr/bin/env bash
# npm run check: linter, type checkers and formatter, two at a time.
set -uo pipefail
cd "$(dirname "$0")/.."
out=$(mktemp)
# Both sides take about as long.
{
  beside=0
  npm run --silent lint || beside=1
  npm run --silent format:check || beside=1
  exit "$beside"
} >"$out" 2>&1 &
beside=$!
status=0
npm run --silent types || status=1
wait "$beside" || status=1
cat "$out"
rm -f "$out"
exit $status
