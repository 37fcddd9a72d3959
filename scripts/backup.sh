#!/usr/bin/env bash
# Backup and restore of the demo's database, which may go on running.
# usage: scripts/backup.sh backup [FILE] | restore FILE
set -euo pipefail
cd "$(dirname "$0")/.."
folder=var/backups
pidfile=var/clearjar.pid
running() { [ -f "$pidfile" ] && [ -r "/proc/$(cat "$pidfile")/cmdline" ] && grep -qz clearjar "/proc/$(cat "$pidfile")/cmdline"; }

case "${1:-}" in
  backup)
    file=${2:-$folder/clearjar-$(date +%Y-%m-%d-%H%M%S).dump}
    mkdir -p "$(dirname "$file")"
    scripts/postgres.sh start demo >/dev/null
    scripts/postgres.sh dump demo "$file"
    echo "Kept in $file ($(du -h "$file" | cut -f1)): all facts and all photos."
    echo "Put it back with: make restore FILE=$file"
    ;;
  restore)
    if [ -z "${2:-}" ]; then
      echo "Which one? make restore FILE=... of these, newest first:" >&2
      ls -1t "$folder"/*.dump >&2 2>/dev/null || echo "(no backup in $folder yet: make backup)" >&2
      exit 2
    fi
    scripts/postgres.sh start demo >/dev/null
    scripts/postgres.sh load demo "$2"
    echo "Restored from $2. What was there before stands beside it as the database clearjar_before_restore."
    # The server may be newer than the backup: its start brings the tables up to date.
    if running; then exec scripts/demo.sh; fi
    ;;
  *) echo "backup.sh: backup [FILE] | restore FILE" >&2; exit 2 ;;
esac
