#!/usr/bin/env bash
# The real binary as it stands in a home network: TLS by the household's own authority, an account, a name.
# usage: scripts/e2e-wayin.sh PORT DATABASE FOLDER
set -euo pipefail
cd "$(dirname "$0")/.."
scripts/postgres.sh start test >/dev/null 2>&1
scripts/postgres.sh fresh test "$2" >/dev/null
rm -rf "$3"
echo 'lantern gravel otter seventeen' | scripts/e2e-clearjar.sh "$2" household member ada --name Ada
exec scripts/e2e-clearjar.sh "$2" serve --listen "0.0.0.0:$1" --host clearjar.local --authority "$3"
