#!/usr/bin/env bash
# Builds the web app and the program that embeds it, into bin/ergasia.
. "$(dirname "$0")/lib.sh"
need_tools
need_space "$ROOT" 1500
cd "$ROOT/web"
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  say "installing the web app's packages into web/node_modules (npm ci)"
  npm ci --no-audit --no-fund --loglevel=error
fi
npm run --silent build -- --logLevel warn
cd "$ROOT"
go build -trimpath -o bin/ergasia ./cmd/ergasia
