#!/usr/bin/env bash
# make test: everything, on a fresh machine too. usage: scripts/test.sh
set -euo pipefail
cd "$(dirname "$0")/.."
step() { printf '\n== %s (%s s)\n' "$1" "$SECONDS"; }

step "set-up"
scripts/setup.sh test
mkdir -p ui/dist && touch ui/dist/.keep
CLEARJAR_TEST_DATABASE=$(scripts/postgres.sh start test | tail -n 1)
export CLEARJAR_TEST_DATABASE
trap 'scripts/postgres.sh stop test' EXIT

step "Go: format, vet, staticcheck"
unformatted=$(go tool -modfile=tools/go.mod gofumpt -l cmd core demo household propagation server standin store ui/embed.go | grep -v '^store/sqlgen/' || true)
[ -z "$unformatted" ] || { echo "not formatted (run make format):"; echo "$unformatted"; exit 1; }
go vet ./...
go tool -modfile=tools/go.mod staticcheck ./...

step "Go: tests"
go test ./...

step "front end: contract, types, lint, format"
npx --no-install openapi-typescript api/openapi.json -o var/contract.gen.ts >/dev/null
cmp var/contract.gen.ts ui/src/api/contract.gen.ts || { echo "ui/src/api/contract.gen.ts is stale: run make contract"; exit 1; }
node scripts/licences.mjs --check
npm run --silent types
npm run --silent lint
npm run --silent format

step "build"
scripts/build.sh
gzip -c ui/dist/assets/index-*.js | wc -c | xargs -I{} echo "entry script: {} bytes gzip"

step "browser"
npm run --silent e2e
printf '\nAll of it passed in %s s.\n' "$SECONDS"
