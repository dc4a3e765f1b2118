#!/usr/bin/env bash
# `make test`: static checks, builds, and every test, against a throwaway
# PostgreSQL and Debian's Chromium, both installed where missing.
. "$(dirname "$0")/lib.sh"
need_tools
need_space "$ROOT" 2500
find_postgres
install_package chromium chromium "the browser that the end-to-end tests drive"
export CHROMIUM=${CHROMIUM:-$(command -v chromium)}
"$ROOT/scripts/build.sh"
"$ROOT/scripts/check.sh"
export ERGASIA_BINARY=$ROOT/bin/ergasia
cd "$ROOT"
say "running every test"
"$ROOT/scripts/with-postgres.sh" go test -timeout 15m ./...
"$ROOT/scripts/lines.sh"
