#!/usr/bin/env bash
# Checks Node, installs packages when the lock file changed, and builds when a source changed.
set -euo pipefail
cd "$(dirname "$0")/.."
say() { echo "  $*"; }

command -v node > /dev/null || { echo "Node.js is missing: install Node 20.19 or newer" >&2; exit 1; }
node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
  { echo "Node $(node -v) is too old: Ample Crane needs 20.19 or newer" >&2; exit 1; }

mkdir -p .cache
lock=$(cat package-lock.json | sha256sum | cut -d' ' -f1)
if [ ! -d node_modules ] || [ "$(cat .cache/installed 2>/dev/null)" != "$lock" ]; then
  say "installing packages (about a minute)…"
  npm ci --no-audit --no-fund --loglevel=error
  echo "$lock" > .cache/installed
fi

sources=$({ find core/src server/src web/src web/public stand-ins/src -type f ! -name '*.test.*' ! -name '*.generated.ts' -print0 | sort -z | xargs -0 cat
  cat package-lock.json scripts/shapes.mjs tsconfig.base.json */tsconfig.json web/vite.config.ts web/index.html; } | sha256sum | cut -d' ' -f1)
built() { [ -f server/dist/main.js ] && [ -f web/dist/index.html ] && [ -f stand-ins/dist/climate-sensors.js ]; }
if ! built || [ "$(cat .cache/built 2>/dev/null)" != "$sources" ]; then
  say "building (about half a minute)…"
  npm run --silent build > .cache/build.log 2>&1 || { cat .cache/build.log >&2; exit 1; }
  echo "$sources" > .cache/built
fi
