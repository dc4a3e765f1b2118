#!/usr/bin/env bash
# `make run`: the program for a crew of your own. Installs what is missing, builds,
# starts a private PostgreSQL where DATABASE_URL names none, and serves. Where there
# is no crew yet, it prints a code with which the first page founds one. PORT chooses
# the port (8080).
. "$(dirname "$0")/lib.sh"
need_tools
port=${PORT:-8080}
free_to_use "$port" run
serve_privately crew serve
