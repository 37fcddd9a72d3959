#!/usr/bin/env bash
# Installs what is missing, and says so. usage: scripts/setup.sh [test]   (test: also the browser)
set -euo pipefail
cd "$(dirname "$0")/.."

need() { command -v "$1" >/dev/null 2>&1 || { echo "setup: $1 is needed and not here: $2" >&2; exit 1; }; }
need go "install Go 1.26 or later"
need node "install Node 20.19 or later"
need npm "it comes with Node"

packages=()
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || packages+=(postgresql)
command -v setpriv >/dev/null 2>&1 || packages+=(util-linux)
if [ "${1:-}" = test ] && ! command -v chromium >/dev/null 2>&1; then packages+=(chromium); fi
# The printed tags are read back with a PDF renderer.
if [ "${1:-}" = test ] && ! command -v pdftoppm >/dev/null 2>&1; then packages+=(poppler-utils); fi
# Certificates are checked by a program that is not ours, and so is what a browser trusts.
if [ "${1:-}" = test ] && ! command -v openssl >/dev/null 2>&1; then packages+=(openssl); fi
if [ "${1:-}" = test ] && ! command -v certutil >/dev/null 2>&1; then packages+=(libnss3-tools); fi
# Backups are unpacked by a program that is not ours.
if [ "${1:-}" = test ] && ! command -v unzip >/dev/null 2>&1; then packages+=(unzip); fi
# Files of roots are checked by a program that is not ours.
if [ "${1:-}" = test ] && ! command -v xmllint >/dev/null 2>&1; then packages+=(libxml2-utils); fi
if [ ${#packages[@]} -gt 0 ]; then
  if [ "$(id -u)" != 0 ]; then
    echo "setup: missing Debian packages. Install them with: sudo apt-get install ${packages[*]}" >&2
    exit 1
  fi
  echo "setup: installing Debian packages: ${packages[*]}"
  apt-get update -qq
  # Debian's package would start a server of its own on 5432; ours is the one in var/.
  mkdir -p /etc/postgresql-common
  [ -e /etc/postgresql-common/createcluster.conf ] || echo "create_main_cluster = false" >/etc/postgresql-common/createcluster.conf
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${packages[@]}" >/dev/null
fi

stamp=node_modules/.clearjar-stamp
want=$(sha256sum package-lock.json package.json | sha256sum | cut -d' ' -f1)
if [ "$(cat "$stamp" 2>/dev/null || true)" != "$want" ]; then
  echo "setup: installing the front end's packages"
  PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 npm ci --no-audit --no-fund --loglevel=error
  echo "$want" >"$stamp"
fi
