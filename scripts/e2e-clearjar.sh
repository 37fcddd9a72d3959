#!/usr/bin/env bash
# The command on a database of the browser tests. usage: scripts/e2e-clearjar.sh DATABASE ARGUMENTS...
set -euo pipefail
cd "$(dirname "$0")/.."
server=$(scripts/postgres.sh start test 2>/dev/null | tail -n 1)
export CLEARJAR_DATABASE=${server/\/clearjar\?/\/$1?}
shift
exec ./bin/clearjar "$@"
