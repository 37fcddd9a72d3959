#!/usr/bin/env bash
# PostgreSQL on loopback for one purpose.
# usage: scripts/postgres.sh start|stop|reset|url|status|kill NAME        (NAME: demo or test)
#        scripts/postgres.sh fresh NAME DATABASE     an empty database of that name
#        scripts/postgres.sh dump NAME FILE [DATABASE]   everything into one file, while it is in use
#        scripts/postgres.sh load NAME FILE [DATABASE]   that file in place of what is there; what was there stays beside it
# Data lives in var/NAME, or in /var/tmp when the server's user cannot enter this folder.
# 127.0.0.1 only, no socket, a generated password in a file only its owner can read, a port of its own that is remembered.
set -euo pipefail
cd "$(dirname "$0")/.."
here=$(pwd -P)
act=${1:-start}
name=${2:-demo}
case "$name" in demo | test) ;; *) echo "postgres.sh: NAME is demo or test" >&2; exit 2 ;; esac

say() { echo "postgres ($name): $*" >&2; }

mkdir -p var
exec 9>"var/$name.lock"
flock -w 120 9 || { say "another start has held var/$name.lock for two minutes"; exit 1; }

as_server() { "$@" 9>&-; }
if [ "$(id -u)" = 0 ]; then
  id postgres >/dev/null 2>&1 || useradd --system --home-dir /var/lib/postgresql --create-home --shell /usr/sbin/nologin postgres
  as_server() { (cd / && HOME=/var/tmp setpriv --reuid postgres --regid "$(id -g postgres)" --init-groups "$@" 9>&-); }
fi

# The data folder: here when the server's user can write here, else keyed by this checkout's path.
base="$here/var/postgres-$name"
if [ "$(id -u)" = 0 ]; then
  if ! as_server test -x "$here/var"; then
    base="/var/tmp/clearjar-$(printf '%s' "$here" | sha256sum | cut -c1-12)-$name"
  fi
  mkdir -p "$base"
  chown postgres: "$base"
else
  mkdir -p "$base"
fi
chmod 700 "$base"
data="$base/data"
secret="var/$name.password"
portfile="$base/port"

bin() {
  local want="" found
  if [ -f "$data/PG_VERSION" ]; then want=$(cat "$data/PG_VERSION"); fi
  for found in ${want:+"/usr/lib/postgresql/$want/bin"} $(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -t/ -k5 -rn); do
    if [ -x "$found/initdb" ] && [ -x "$found/postgres" ]; then echo "$found"; return; fi
  done
  return 1
}
if ! PGBIN=$(bin); then
  if [ "$(id -u)" = 0 ]; then
    say "not installed: installing Debian's package postgresql"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends postgresql >/dev/null
    PGBIN=$(bin)
  else
    say "not installed. Install it with: sudo apt-get install postgresql"
    exit 1
  fi
fi

# A zombie, or another program that got the old number, does not count as the server.
server_pid() {
  local pid
  [ -f "$data/postmaster.pid" ] || return 1
  pid=$(head -n 1 "$data/postmaster.pid")
  [ -r "/proc/$pid/stat" ] || return 1
  case "$(sed 's/^.*) //' "/proc/$pid/stat" | cut -c1)" in Z | X) return 1 ;; esac
  grep -qz postgres "/proc/$pid/cmdline" || return 1
  echo "$pid"
}
port() { cat "$portfile" 2>/dev/null || true; }
url() { echo "postgres://clearjar:$(cat "$secret")@127.0.0.1:$(port)/clearjar?sslmode=disable"; }
answers() { client psql -d "${1:-postgres}" -Atqc 'select 1' >/dev/null 2>&1; }
free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

stop() {
  if server_pid >/dev/null; then
    as_server "$PGBIN/pg_ctl" -D "$data" -m fast -w -t 30 stop >/dev/null || true
    say "stopped"
  fi
}

client() { local tool=$1; shift; PGPASSWORD=$(cat "$secret") as_server "$PGBIN/$tool" -h 127.0.0.1 -p "$(port)" -U clearjar "$@"; }

# A file that is cut short is not taken for a backup.
dump() {
  local to=$1 database=${2:-clearjar}
  (umask 077 && client pg_dump --format=custom --no-owner -d "$database" >"$to.part")
  "$PGBIN/pg_restore" --list "$to.part" >/dev/null
  mv "$to.part" "$to"
}
# All of it is read into a database of its own first: when that fails, nothing has changed.
load() {
  local from=$1 database=${2:-clearjar} fresh="${2:-clearjar}_loading" before="${2:-clearjar}_before_restore"
  [ -r "$from" ] || { say "there is no file $from; nothing was changed"; exit 1; }
  client dropdb --force --if-exists "$fresh" 2>/dev/null
  client createdb "$fresh"
  client psql -d postgres -qc "do \$\$ begin create role clearjar_app nologin; exception when duplicate_object then null; end \$\$"
  if ! client pg_restore --exit-on-error --no-owner --no-privileges -d "$fresh" <"$from" 2>"var/$name.restore.log" ||
    ! client psql -d "$fresh" -qv ON_ERROR_STOP=1 <store/grants.sql 2>>"var/$name.restore.log"; then
    client dropdb --force "$fresh"
    say "$from could not be read back; nothing was changed:"
    head -n 5 "var/$name.restore.log" >&2
    exit 1
  fi
  client dropdb --force --if-exists "$before" 2>/dev/null
  client psql -d postgres -qv ON_ERROR_STOP=1 <<SQL
alter database "$database" with allow_connections false;
select pg_terminate_backend(pid) from pg_stat_activity where datname = '$database' \g /dev/null
alter database "$database" rename to "$before";
alter database "$fresh" rename to "$database";
alter database "$before" with allow_connections true;
SQL
}

case "$act" in
  url) url; exit ;;
  dump) dump "$3" "${4:-}"; exit ;;
  load) load "$3" "${4:-}"; exit ;;
  fresh) client dropdb --force --if-exists "$3" 2>/dev/null; client createdb "$3"; exit ;;
  kill) kill -9 "$(server_pid)"; say "killed"; exit ;;
  status) if server_pid >/dev/null; then echo "running on port $(port)"; else echo "stopped"; fi; exit ;;
  stop) stop; exit ;;
  reset) stop; rm -rf "$data" "$base/ready" "$portfile"; say "data removed" ;;
  start) ;;
  *) echo "postgres.sh: start | stop | reset | url | status | kill | fresh | dump | load" >&2; exit 2 ;;
esac

# An initdb that was cut short is thrown away.
if [ ! -f "$base/ready" ]; then
  stop
  rm -rf "$data"
  (umask 077 && head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$secret")
  pw="$base/pw"
  install -m 600 "$secret" "$pw"
  [ "$(id -u)" != 0 ] || chown postgres: "$pw"
  as_server "$PGBIN/initdb" -D "$data" -U clearjar --pwfile="$pw" --auth=scram-sha-256 --encoding=UTF8 --locale=C.UTF-8 >"var/$name.initdb.log" 2>&1 ||
    { say "initdb failed, see var/$name.initdb.log"; exit 1; }
  rm -f "$pw"
  touch "$base/ready"
fi

start_on() {
  local p=$1 fast=""
  [ "$name" != test ] || fast="-c fsync=off -c synchronous_commit=off -c full_page_writes=off"
  echo "$p" >"$portfile"
  as_server "$PGBIN/pg_ctl" -D "$data" -l "$base/server.log" -w -t 60 \
    -o "-p $p -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c max_connections=60 $fast" start >/dev/null 2>&1
}
if ! server_pid >/dev/null; then
  # Backends of a killed server may hold its memory for a moment: they leave by themselves.
  rm -f "$data/postmaster.pid"
  first=$(port)
  [ -n "$first" ] || { [ "$name" = demo ] && first=8430 || first=8440; }
  for p in $first $(seq 8430 8479); do
    if ! free "$p"; then say "port $p is taken, trying the next"; continue; fi
    for try in 1 2 3; do
      if start_on "$p"; then break 2; fi
      sleep "$try"
    done
    free "$p" && { say "did not start; the last lines of its log:"; tail -n 5 "$base/server.log" >&2; exit 1; }
  done
fi
for _ in $(seq 50); do answers && break; sleep 0.2; done
answers || { say "started on port $(port), but does not answer; see $base/server.log"; exit 1; }
answers clearjar || client createdb clearjar
url
