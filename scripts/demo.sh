#!/usr/bin/env bash
# make demo: set up, start PostgreSQL, load the demo into an empty database, build, serve. usage: scripts/demo.sh [start|stop]
set -euo pipefail
cd "$(dirname "$0")/.."
pidfile=var/clearjar.pid

running() { [ -f "$pidfile" ] && [ -r "/proc/$(cat "$pidfile")/cmdline" ] && grep -qz clearjar "/proc/$(cat "$pidfile")/cmdline"; }

if [ "${1:-start}" = stop ]; then
  if running; then kill "$(cat "$pidfile")" && echo "server stopped"; fi
  rm -f "$pidfile"
  exec scripts/postgres.sh stop demo
fi

scripts/setup.sh
if running; then
  echo "Restarting the server."
  kill "$(cat "$pidfile")"
  sleep 0.5
fi
url=$(scripts/postgres.sh start demo | tail -n 1)
scripts/build.sh
CLEARJAR_DATABASE=$url ./bin/clearjar demo
CLEARJAR_DATABASE=$url nohup ./bin/clearjar serve --demo --port "${PORT:-8420}" >var/clearjar.log 2>&1 &
echo $! >"$pidfile"
for _ in $(seq 100); do
  if line=$(grep -m1 'is open at' var/clearjar.log); then
    grep 'is taken' var/clearjar.log || true
    echo "$line"
    echo "Stop it with: make stop"
    exit 0
  fi
  running || break
  sleep 0.1
done
echo "The server did not start:" >&2
cat var/clearjar.log >&2
exit 1
