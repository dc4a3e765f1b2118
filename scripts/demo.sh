#!/usr/bin/env bash
# `make demo`: installs what is missing, builds, starts a private PostgreSQL,
# loads the demonstration once and serves it. PORT chooses the port (8080).
. "$(dirname "$0")/lib.sh"
need_tools
port=${PORT:-8080}
free_to_use "$port" demo
serve_privately demo demo
