#!/usr/bin/env bash
# `make bench`: the benchmarks. Times are of this machine; the ratios, each
# against a reference in the same run, are what can be compared.
. "$(dirname "$0")/lib.sh"
need_tools
find_postgres
install_package chromium-headless-shell chromium-headless-shell "the browser that one benchmark drives"
install_package glpsol glpk-utils "the general solver that plans are compared with"
export CHROMIUM=${CHROMIUM:-$(command -v chromium-headless-shell)}
"$ROOT/scripts/build.sh"
export ERGASIA_BINARY=$ROOT/bin/ergasia
cd "$ROOT"
go test ./core/units ./core/hull ./core/float ./core/road ./core/stow ./core/find ./core/entry ./core/kit ./core/due ./core/where ./core/fuel ./core/way ./formats/table -count=1 -rapid.checks=1000
# Ten thousand random hulls and loads: each comes to rest, or is told why not.
go test ./core/float -run TestEveryHullAndLoad -count=1 -rapid.checks=10000 -v | grep -E 'have no attitude|^(ok|FAIL)'
# Among them plans beside those of a general solver, which gets a minute for each.
go test -run '^$' -bench . -timeout 60m ./core/...
"$ROOT/scripts/with-postgres.sh" go test -run '^$' -bench . -benchtime 1x ./api ./demo ./e2e
# A million requests that nobody means, four at a time; ERGASIA_FUZZ asks for fewer.
ERGASIA_FUZZ=${ERGASIA_FUZZ:-1000000} "$ROOT/scripts/with-postgres.sh" go test ./api -run TestNothingThatIsSentBreaksIt -count=1 -timeout 12h
# A thousand crews with half a million pieces: it takes some minutes to build.
POSTGRES_SETTINGS="-c shared_buffers=1GB -c max_wal_size=4GB" \
  "$ROOT/scripts/with-postgres.sh" go test -run '^$' -bench . -benchtime 1x -timeout 30m ./app
