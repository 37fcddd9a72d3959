#!/usr/bin/env bash
# The real binary on its own port and its own, fresh database, with the demo in it unless the name ends in _empty.
# usage: scripts/e2e-server.sh PORT DATABASE
set -euo pipefail
cd "$(dirname "$0")/.."
server=$(scripts/postgres.sh start test 2>/dev/null | tail -n 1)
scripts/postgres.sh fresh test "$2" >/dev/null
export CLEARJAR_DATABASE=${server/\/clearjar\?/\/$2?}
[[ $2 == *_empty ]] || ./bin/clearjar demo
exec ./bin/clearjar serve --port "$1"
