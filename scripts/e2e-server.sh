#!/usr/bin/env bash
# The real binary on its own port and its own, fresh database. usage: scripts/e2e-server.sh PORT DATABASE
# With the demo in it, unless the name ends in _empty; entered by the demo's button, unless it ends in _door.
set -euo pipefail
cd "$(dirname "$0")/.."
scripts/postgres.sh start test >/dev/null 2>&1
scripts/postgres.sh fresh test "$2" >/dev/null
case $2 in
  *_door) exec scripts/e2e-clearjar.sh "$2" serve --port "$1" ;;
  *_empty) ;;
  *) scripts/e2e-clearjar.sh "$2" demo ;;
esac
exec scripts/e2e-clearjar.sh "$2" serve --demo --port "$1"
