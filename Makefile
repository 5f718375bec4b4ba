# Two commands do all the set-up: make demo and make test. The others are for
# whoever changes Ulpa.
GO_TAGS := nomsgpack
export CGO_ENABLED ?= 0
# The program carries no tables for a debugger, so none are compiled.
LEAN := -trimpath -gcflags=all=-dwarf=false

.PHONY: demo test build generate shots bench hostile fuzz faults doses mutants additions format gosec

demo: build
	@exec bin/ulpa demo

build:
	@scripts/need go postgresql
	@go build $(LEAN) -tags $(GO_TAGS) -ldflags '-s -w' -o bin/ulpa ./cmd/ulpa
	@bin/ulpa demo --make

test:
	@scripts/test

# After a change to migrations or queries.
generate:
	cd internal/base/store && CGO_ENABLED=1 go tool -modfile=../../../tools/go.mod sqlc generate
	scripts/generated write

# The pictures of docs/screenshots, from the demo.
shots: build
	@scripts/need chromium node
	cd e2e && npm ci --ignore-scripts --no-audit --no-fund && node shots.mjs

# The calculators alone, over the API, and from the command line, and the pages over
# five busy years (a few minutes to grow; YEARS=n for fewer), beside their floors.
bench: build
	scripts/need cbc
	ULPA_MIP=cbc go test -run '^$$' -bench Season -benchtime 1x -timeout 30m ./core/plan
	go test -run '^$$' -bench . -benchmem ./core/... ./internal/doors/api | grep -v 'no test files'
	ULPA_BIN="$(CURDIR)/bin/ulpa" go test -run '^$$' -bench CalcStart -benchtime 100x ./cmd/ulpa
	GOGC=300 ULPA_BENCH_YEARS=$(or $(YEARS),5) bin/ulpa with-postgres go test -run '^$$' -bench 'Pages$$' -benchtime 1x -timeout 30m ./internal/doors/web
	GOGC=300 bin/ulpa with-postgres go test -run '^$$' -bench WhileWriting -benchtime 1x -timeout 30m ./internal/doors/web
	bin/ulpa with-postgres go test -run '^$$' -bench Crowd -benchtime 1x ./internal/doors/web
	bin/ulpa with-postgres go test -run '^$$' -bench Import -benchtime 1x ./internal/tests/house
	bin/ulpa with-postgres go test -run '^$$' -bench Trend -benchtime 20x -timeout 30m ./internal/tests/house
	ULPA_BIN="$(CURDIR)/bin/ulpa" bin/ulpa with-postgres go test -run '^$$' -bench 'Serve$$' -benchtime 1x ./cmd/ulpa

# Ten thousand requests that no form would send; SEED=n for others.
hostile: build
	ULPA_HOSTILE=10000 ULPA_SEED=$(or $(SEED),1) bin/ulpa with-postgres go test -count=1 -timeout 30m -run Hostile ./internal/doors/web

# Which small changes of core no test notices: five files drawn by SEED, or FILE=core/...
mutants:
	SEED=$(or $(SEED),1) FILES=$(or $(FILES),5) FILE="$(FILE)" scripts/mutants

# What docs/architecture.md promises of additions, tried in a scratch copy (a minute).
additions: build
	node scripts/additions.mjs

# Styles and scripts, as make test wants them; Go is formatted by bin/gofumpt.
format:
	cd e2e && npm ci --ignore-scripts --no-audit --no-fund --loglevel=error && npm run --silent format

# Whatever a parser is given: half a minute each, or TIME.
fuzz: build
	scripts/fuzz $(or $(TIME),30s)

# Servers and connections that break under fifty writers: an hour of it, or LONG;
# SEED=n for other faults. What was done is in faults.jsonl.
faults: build
	ULPA_FAULTS=$(or $(LONG),1h) ULPA_SEED=$(or $(SEED),1) ULPA_FAULTS_LOG="$(CURDIR)/faults.jsonl" go test -count=1 -v -timeout 2h ./internal/tests/faults

# What the advised doses do to ten thousand tanks of every kind with each meter, or
# TANKS; docs/advice.md has the figures (half an hour on two cores).
doses:
	ULPA_DOSES=$(or $(TANKS),10000) go test -count=1 -v -timeout 3h -run TestDosesCannotHurt ./core/tank

# A second opinion on what is dangerous; every exception is argued where it stands.
gosec:
	go run github.com/securego/gosec/v2/cmd/gosec@v2.30.0 -quiet -exclude-dir=internal/base/store/db ./...
