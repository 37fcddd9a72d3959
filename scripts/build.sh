#!/usr/bin/env bash
# Builds the front end into ui/dist and the binary with it into bin/clearjar; the front end only when its sources changed.
set -euo pipefail
cd "$(dirname "$0")/.."
mkdir -p var bin
sources=$(find ui package-lock.json -path ui/dist -prune -o -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
if [ "$(cat var/front.sum 2>/dev/null || true)" != "$sources" ] || [ ! -f ui/dist/index.html ]; then
  echo "build: front end"
  npx --no-install vite build ui --logLevel warn
  echo "$sources" >var/front.sum
fi
echo "build: binary"
CGO_ENABLED=0 go build -tags nodynamic -trimpath -o bin/clearjar ./cmd/clearjar
