#!/usr/bin/env bash
# Static checks: gofmt, go vet, staticcheck, Biome, tsc, and that generated
# files are current.
. "$(dirname "$0")/lib.sh"
cd "$ROOT"
say "static checks"
bad=$(gofmt -l cmd core app store formats api demo simulators web/*.go e2e)
[ -z "$bad" ] || die "these files are not gofmt'ed: $bad"
go vet ./...
go tool staticcheck ./...
cd web
[ -d node_modules ] || npm ci --no-audit --no-fund --loglevel=error
npm run --silent check
npx --no-install openapi-typescript ../api/openapi.json --array-length -o /tmp/ergasia-schema.$$.ts >/dev/null 2>&1
cmp -s /tmp/ergasia-schema.$$.ts src/api/schema.gen.ts || die "web/src/api/schema.gen.ts is not current: run npm run types in web/"
rm -f /tmp/ergasia-schema.$$.ts
