#!/usr/bin/env bash
# Clear Jar on a fresh Debian machine, as root. It can be run twice. usage: deploy/install.sh [PROGRAM]
# PROGRAM is the built one (make build makes bin/clearjar).
set -euo pipefail
cd "$(dirname "$0")/.."
program=${1:-bin/clearjar}
[ "$(id -u)" = 0 ] || { echo "install: run it as root" >&2; exit 1; }
[ -x "$program" ] || { echo "install: there is no program $program: make build" >&2; exit 1; }

echo "1. PostgreSQL"
if ! ls /usr/lib/postgresql/*/bin/postgres >/dev/null 2>&1; then
  apt-get update -qq
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends postgresql >/dev/null
fi
cluster() { pg_lsclusters -h | awk 'NR == 1 { print $1, $2 }'; }
[ -n "$(cluster)" ] || pg_createcluster "$(ls /usr/lib/postgresql | sort -n | tail -n 1)" main >/dev/null
if [ -d /run/systemd/system ]; then systemctl start postgresql; else
  # shellcheck disable=SC2046
  pg_ctlcluster $(cluster) start || true
fi
for _ in $(seq 50); do runuser -u postgres -- psql -Atqc 'select 1' >/dev/null 2>&1 && break || sleep 0.2; done

echo "2. A user of the system and of the database"
id clearjar >/dev/null 2>&1 || useradd --system --home-dir /var/lib/clearjar --shell /usr/sbin/nologin clearjar
# It makes the role the application works as, and sees every row for backups; the application itself sees one household's.
runuser -u postgres -- psql -q <<'SQL'
do $$ begin create role clearjar login createrole bypassrls; exception when duplicate_object then null; end $$;
SQL
runuser -u postgres -- psql -Atqc "select 1 from pg_database where datname = 'clearjar'" | grep -q 1 || runuser -u postgres -- createdb -O clearjar clearjar

echo "3. The program and its settings"
install -m 0755 "$program" /usr/local/bin/clearjar
install -d -m 0755 /etc/clearjar
[ -e /etc/clearjar/clearjar.yaml ] || install -m 0644 deploy/clearjar.yaml /etc/clearjar/clearjar.yaml
install -d -m 0700 -o clearjar -g clearjar /var/lib/clearjar
if [ -d /etc/systemd/system ]; then install -m 0644 deploy/clearjar.service deploy/clearjar.socket /etc/systemd/system/; fi

echo "4. The first keeper"
runuser -u clearjar -- /usr/local/bin/clearjar household list
cat <<'SAY'

Next, in this order:
  edit /etc/clearjar/clearjar.yaml                     the names and numbers this machine is called by
  runuser -u clearjar -- clearjar household member NAME   asks for a passphrase
  systemctl daemon-reload && systemctl enable --now clearjar.socket clearjar.service
  runuser -u clearjar -- clearjar doctor               says what is still to be looked after
SAY
