#!/usr/bin/env bash
# `make lines`: the share of tests in the code. Generated files do not count.
. "$(dirname "$0")/lib.sh"
cd "$ROOT"
code=$(git ls-files -co --exclude-standard | grep -E '\.(go|ts|tsx|css|sql|sh)$' | grep -vE '\.gen\.ts$|/dist/')
tests=$(printf '%s\n' "$code" | grep -E '_test\.go$|^e2e/|storetest/|\.test\.tsx?$')
all=$(printf '%s\n' "$code" | xargs cat | wc -l)
test=$(printf '%s\n' "$tests" | xargs cat | wc -l)
echo "lines of code: $all, of them tests: $test, that is $((100 * test / all)) %"
