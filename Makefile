.PHONY: licences lighthouse demo demo-reset stop backup restore build test contract format sql shots figures

# Photos of phones that keep HEIC are decoded by what ships with the program, not by a library of the machine.
export GOFLAGS := $(strip $(GOFLAGS) -tags=nodynamic)

demo: ## set up, load the demo garden, build and serve on 127.0.0.1:8420
	@scripts/demo.sh

demo-reset: ## throw the demo's data away and load it anew
	@scripts/demo.sh stop
	@scripts/postgres.sh reset demo >/dev/null
	@scripts/demo.sh

stop: ## stop what make demo started
	@scripts/demo.sh stop

backup: ## everything in the demo's database into one file of var/backups; it may go on running
	@scripts/backup.sh backup $(FILE)

restore: ## a backup in place of what is there: make restore FILE=var/backups/...
	@scripts/backup.sh restore $(FILE)

build:
	@scripts/setup.sh
	@scripts/build.sh

test: ## everything: Go, types, lint, browser
	@scripts/test.sh

contract: ## write api/openapi.json, docs/handbook.md and the front end's types from the Go types
	go run ./cmd/clearjar openapi > api/openapi.json.new && mv api/openapi.json.new api/openapi.json
	go run ./cmd/clearjar handbook > docs/handbook.md.new && mv docs/handbook.md.new docs/handbook.md
	npm run contract

sql: ## generate Go from the .sql files
	cd store && CGO_ENABLED=0 go tool -modfile=../tools/go.mod sqlc generate

format:
	go tool -modfile=tools/go.mod gofumpt -w cmd core demo household propagation server standin store ui/embed.go
	npm run format:write

shots: ## docs/screenshots from the running demo
	node scripts/shots.mjs

figures: ## response times of the running demo, and the time to draw the shelf
	node scripts/figures.mjs

licences: ## gather the licences of everything that is shipped, for the About page
	node scripts/licences.mjs

lighthouse: ## what Lighthouse says of every station of the running demo
	node scripts/lighthouse.mjs
