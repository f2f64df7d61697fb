#!/usr/bin/env bash
# npm test: sets up what a fresh machine lacks, checks the code, runs all suites, and ends with the sum of them.
set -uo pipefail
cd "$(dirname "$0")/.."
bash scripts/install.sh || exit 1
as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }
if [ ! -x "${CHROMIUM:-/usr/bin/chromium}" ] || [ ! -x "${CHROMEDRIVER:-/usr/bin/chromedriver}" ]; then
  as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium chromium-driver >/dev/null || exit 1
fi
if ! command -v redis-server >/dev/null; then
  as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq redis-server >/dev/null || exit 1
fi
# Independent readers of the PDF files that reports are written as.
if ! command -v pdftotext >/dev/null; then
  as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq poppler-utils >/dev/null || exit 1
fi
out=$(mktemp -d)
status=0
echo "— check: lint, types, format"
npm run --silent check || status=1
echo "— build"
npm run --silent build >/dev/null || { echo "the build failed"; status=1; }
echo "— unit tests"
npx --no-install jest --json --outputFile="$out/unit.json" || status=1
echo "— browser tests"
npx --no-install jest -c jest.browser.config.mjs --json --outputFile="$out/browser.json" || status=1
node -e '
  const { existsSync, readFileSync } = require("node:fs");
  let passed = 0, failed = 0;
  for (const file of process.argv.slice(1)) {
    if (!existsSync(file)) { failed++; continue; }
    const r = JSON.parse(readFileSync(file, "utf8"));
    passed += r.numPassedTests;
    failed += r.numFailedTests + r.numRuntimeErrorTestSuites;
  }
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed > 0 || passed === 0 ? 1 : 0);
' "$out/unit.json" "$out/browser.json" || status=1
rm -rf "$out"
exit $status
