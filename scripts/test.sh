#!/usr/bin/env bash
# `make test`: static checks, builds, and every test, against a throwaway
# PostgreSQL and Debian's Chromium, both installed where missing.
. "$(dirname "$0")/lib.sh"
need_tools
need_space "$ROOT" 2500
find_postgres
install_package chromium-headless-shell chromium-headless-shell "the browser that the end-to-end tests drive, without its windows"
install_package glpsol glpk-utils "the general solver that plans are checked against"
export CHROMIUM=${CHROMIUM:-$(command -v chromium-headless-shell)}
"$ROOT/scripts/build.sh"
"$ROOT/scripts/check.sh"
export ERGASIA_BINARY=$ROOT/bin/ergasia
cd "$ROOT"
say "running every test"
# Properties are drawn from one seed here, so that the same tree always gives the
# same answer; `make bench` draws more of them, anew each time.
properties="ergasia/core/units ergasia/core/hull ergasia/core/float ergasia/core/road ergasia/core/rods ergasia/core/stow ergasia/core/find ergasia/core/entry ergasia/core/kit ergasia/core/due ergasia/core/where ergasia/core/fuel ergasia/core/way ergasia/core/fitting ergasia/formats/calendar ergasia/formats/paper ergasia/formats/sheet ergasia/formats/table"
go test $properties -rapid.seed=20261124
# The browser's tests take longest, so they begin first and the others run beside them.
rest="ergasia/e2e $(go list ./... | grep -vxF "$(printf '%s\n' $properties ergasia/e2e)")"
"$ROOT/scripts/with-postgres.sh" go test -timeout 15m -parallel 3 $rest
"$ROOT/scripts/lines.sh"
