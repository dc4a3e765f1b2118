#!/usr/bin/env bash
# `make demo`: installs what is missing, builds, starts a private PostgreSQL,
# loads the demonstration once and serves it. PORT chooses the port (8080).
. "$(dirname "$0")/lib.sh"
need_tools
port=${PORT:-8080}
node -e 'const s=require("net").createServer();s.on("error",()=>process.exit(1));s.listen(+process.argv[1],"127.0.0.1",()=>s.close())' "$port" ||
  die "port $port is taken or not allowed: stop what uses it, or run PORT=8081 make demo"
if [ -z "${DATABASE_URL:-}" ]; then
  find_postgres
fi
say "building (the first time takes a minute or two)"
"$ROOT/scripts/build.sh"
if [ -z "${DATABASE_URL:-}" ]; then
  if [ "$(id -u)" = 0 ]; then home=/var/lib/ergasia; else home=${XDG_DATA_HOME:-$HOME/.local/share}/ergasia; fi
  mkdir -p "$home"
  start_cluster "$home/demo"
  own_database ergasia_demo
  export DATABASE_URL
  say "data is kept in $home/demo; remove that folder to begin afresh"
  trap 'stop_cluster "$home/demo"' EXIT
fi
export ERGASIA_ADDRESS="127.0.0.1:$port" ERGASIA_LOG="${ERGASIA_LOG:-$ROOT/bin/demo.log}"
"$ROOT/bin/ergasia" demo &
server=$!
trap 'kill -TERM $server 2>/dev/null || true' INT TERM
wait $server || wait $server || true
