#!/usr/bin/env bash
# Runs a command with TEST_DATABASE_URL set to a throwaway cluster of its own,
# which is stopped and removed when the command ends. POSTGRES_SETTINGS adds to it.
. "$(dirname "$0")/lib.sh"
find_postgres
if [ -z "${TEST_DATABASE_URL:-}" ]; then
  home=${TMPDIR:-/tmp}
  # In memory where there is room: each test makes a database of its own, and drops it.
  [ -n "${TMPDIR:-}" ] || { [ "$(df -Pm /dev/shm 2>/dev/null | awk 'NR==2 {print $4}')" -ge 6000 ] && home=/dev/shm; } 2>/dev/null
  dir=$(mktemp -d "$home/ergasia-test.XXXXXX")
  chmod 755 "$dir"
  trap 'stop_cluster "$dir/pg"; rm -rf "$dir"' EXIT
  say "starting a throwaway PostgreSQL for the tests"
  start_cluster "$dir/pg" -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=200 ${POSTGRES_SETTINGS:-}
  export TEST_DATABASE_URL="$CLUSTER_URL/postgres"
fi
"$@"
