# Old Burrow. `make demo` shows it, `make test` tests it; both install what they need.
LISTEN ?= 127.0.0.1:8416
DATA ?= demo.db
export PATH := $(PATH):/usr/local/go/bin

.PHONY: demo season advise build core web logic types lint test current packages drawn stories long bench mutants mutants-by-hand race shots words chromium

demo: build
	./oldburrow demo --data $(DATA) --listen $(LISTEN) $(if $(FRESH),--fresh)

build: web
	go build -o oldburrow ./cmd/oldburrow

web/node_modules/.package-lock.json: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	@touch $@

# The core as the browser has it, with what Go's own tools put beside it. It is made anew where the core has changed.
core:
	@mkdir -p web/core && cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" web/core/
	GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -o web/core/core.wasm ./cmd/core

web: web/node_modules/.package-lock.json core
	cd web && npm run --silent build
	gzip -9nf web/dist/assets/*.wasm

# The interface's types and the documented schema come from the Go structs.
types: web/node_modules/.package-lock.json
	go run ./cmd/oldburrow schema > docs/schema.json
	go run ./cmd/oldburrow openapi > docs/openapi.json
	cd web && npm run --silent types
	go run ./cmd/oldburrow lists > web/src/lib/lists.gen.ts

lint: web/node_modules/.package-lock.json
	@test -z "$$(gofmt -l archive cmd core demo door e2e exchange instrument mutants server store web/*.go)" || { echo "not formatted:"; gofmt -l archive cmd core demo door e2e exchange instrument mutants server store web/*.go; exit 1; }
	go vet ./...
	GOOS=js GOARCH=wasm go vet ./cmd/core
	go tool staticcheck ./...
	cd web && npm run --silent lint

chromium:
	@command -v chromium-headless-shell >/dev/null && command -v certutil >/dev/null || { \
		if [ "$$(id -u)" = 0 ]; then apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -y -q chromium-headless-shell libnss3-tools; \
		else echo "Chromium is missing, or certutil: run  apt-get install chromium-headless-shell libnss3-tools  as root"; exit 1; fi; }

logic: web/node_modules/.package-lock.json core
	cd web && npm run --silent logic

# What waits for one core leaves the other to its neighbour.
test:
	@$(MAKE) --no-print-directory -j2 chromium build logic
	@$(MAKE) --no-print-directory -j2 --output-sync=target lint current packages
	@$(MAKE) --no-print-directory stories

# Whatever is made out of the Go code and kept is as that code has it.
current: web/node_modules/.package-lock.json
	@go run ./cmd/oldburrow openapi | cmp -s - docs/openapi.json || { echo "docs/openapi.json is stale: run make types"; exit 1; }
	@go run ./cmd/oldburrow schema | cmp -s - docs/schema.json || { echo "docs/schema.json is stale: run make types"; exit 1; }
	@cd web && OUT=/tmp/oldburrow.types.gen.ts npm run --silent types >/dev/null && cmp -s /tmp/oldburrow.types.gen.ts src/lib/types.gen.ts || { echo "web/src/lib/types.gen.ts is stale: run make types"; exit 1; }
	@go run ./cmd/oldburrow lists | cmp -s - web/src/lib/lists.gen.ts || { echo "web/src/lib/lists.gen.ts is stale: run make types"; exit 1; }

# The stories ask the browser's core what the tests of the program drew.
DRAWN := $(CURDIR)/e2e/drawn
packages:
	@mkdir -p $(DRAWN)
	OLDBURROW_DRAWN=$(DRAWN) go test $$(go list ./... | grep -v /e2e)

drawn:
	@mkdir -p $(DRAWN)
	OLDBURROW_DRAWN=$(DRAWN) go test -count=1 -run TestABundleAnswersAsTheFileDoes ./server

# The interface in the browser. Its stories share two slow cores with several browsers: one that fails is told once
# more with nothing beside it, and then has failed. Where one has ended all of them by a panic, or in time, the rest were never told.
STORIES := $(shell mktemp -u)
stories:
	@go test -timeout 30m -parallel 4 ./e2e > $(STORIES) 2>&1; said=$$?; cat $(STORIES); \
	ended=$$(grep '^panic: ' $(STORIES)); again=$$(sed -n 's/^--- FAIL: \(Test[A-Za-z0-9]*\).*/\1/p' $(STORIES) | paste -sd'|'); rm -f $(STORIES); \
	[ $$said = 0 ] || { [ -n "$$again" ] && [ -z "$$ended" ] && echo "once more, alone: $$again" && go test -timeout 10m -count=1 -parallel 1 -run "^($$again)$$" ./e2e; }

# What takes longer: the round with no signal, again and again, the program killed 200 times, and under attack.
long: chromium build logic
	@mkdir -p $(DRAWN)
	OLDBURROW_DRAWN=$(DRAWN) OLDBURROW_LONG=1 go test -timeout 90m -count=1 -v -run TestABundleAnswersAsTheFileDoes ./server
	OLDBURROW_LONG=1 go test -timeout 90m -count=1 -v -run 'TestARoundWithNoSignal|TestAPhoneSendsWhileTheProgramIsKilled|TestKilledAgainAndAgain|TestKilledInCopyAndMigration|TestKilledWhileCopying|TestKilledDuringTheFirstStart|TestUnderAttack|TestTheCoreInTheBrowser|TestDrawnRecordsInTheBrowsersCore|TestWhatTheCoresTakeUp' ./e2e
	OLDBURROW_LONG=1 go test -timeout 90m -count=1 -v -run 'TestDamagedArchives|TestALargeLineComesBackWhole' ./archive

# Quiet wrong changes: how many of 100 the tests notice. By a tool, in the core, a package or a file of it (PKG=./core/pan), kept in docs/mutants.tsv;
# by hand, in what stands about it.
mutants:
	@command -v gremlins >/dev/null || go install github.com/go-gremlins/gremlins/cmd/gremlins@v0.6.0
	PATH="$$PATH:$$(go env GOPATH)/bin" go run ./mutants/core $(PKG)

mutants-by-hand: chromium logic
	go run ./mutants $(ROWS)

# Two at once at the same thing.
race:
	@command -v gcc >/dev/null || { \
		if [ "$$(id -u)" = 0 ]; then apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -y -q gcc libc6-dev; \
		else echo "gcc is missing: run  apt-get install gcc  as root"; exit 1; fi; }
	CGO_ENABLED=1 go test -race -short -timeout 40m ./core/... ./store ./archive ./exchange ./instrument/... ./door ./server

bench: chromium build
	go test -run "^$$$$" -bench . ./core/... ./exchange ./server
	go test -run "^$$$$" -bench UnderAttack -benchtime 1x ./e2e
	OLDBURROW_FRAMES=20 go test -count=1 -v -run TestFramesWhileDragging ./e2e

# Everything that the pages said to the stories, a line each: to be read from end to end.
words: chromium build logic
	OLDBURROW_WORDS=$(CURDIR)/words.txt go test -count=1 -timeout 40m ./e2e

shots: chromium build
	OLDBURROW_SHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestShots ./e2e

# Forty lines are run: left as they are, by what is advised, and by whatever change; what each of them holds is printed.
advise:
	OLDBURROW_ADVISE=1 go test -count=1 -timeout 20m -run TestAdviceIsWorthFollowing ./core/advice

# The nights of the demo's season are drawn anew, from a seed on, until they bring all that there is to show.
season:
	go run ./demo/draw demo/nights.json $(or $(SEED),1000000)
