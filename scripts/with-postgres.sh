#!/usr/bin/env bash
# Runs a command with TEST_DATABASE_URL set to a throwaway cluster of its own,
# which is stopped and removed when the command ends. POSTGRES_SETTINGS adds to it.
. "$(dirname "$0")/lib.sh"
find_postgres
if [ -z "${TEST_DATABASE_URL:-}" ]; then
  dir=$(mktemp -d "${TMPDIR:-/tmp}/ergasia-test.XXXXXX")
  chmod 755 "$dir"
  trap 'stop_cluster "$dir/pg"; rm -rf "$dir"' EXIT
  say "starting a throwaway PostgreSQL for the tests"
  start_cluster "$dir/pg" -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=200 ${POSTGRES_SETTINGS:-}
  export TEST_DATABASE_URL="$CLUSTER_URL/postgres"
fi
"$@"
