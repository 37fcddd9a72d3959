#!/usr/bin/env bash
# The real binary on its own port and its own, fresh database with the demo in it. usage: scripts/e2e-server.sh PORT
set -euo pipefail
cd "$(dirname "$0")/.."
server=$(scripts/postgres.sh start test 2>/dev/null | tail -n 1)
scripts/postgres.sh fresh test e2e >/dev/null
url=${server/\/clearjar\?/\/e2e?}
CLEARJAR_DATABASE=$url ./bin/clearjar demo
CLEARJAR_DATABASE=$url exec ./bin/clearjar serve --port "$1"
