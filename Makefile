# make demo and make test do everything on a fresh Debian with Go, Node and make.
SHELL := /bin/bash
GO    := go
TAGS  := nomsgpack
# not ./...: some front-end packages carry Go files of their own
PKGS  := ./cmd/... ./demo/... ./e2e/... ./internal/... ./web
BIN   := build/hobrak

# the race detector watches the store, and of what is served the tests in which several things are done at once; all of them run
# without it
WATCHED := ^Test(Reading|Changes|Searches|Plans|AFit|ASelection|TheScale|TheSimulated|Taps)
PLAIN  = $(shell $(GO) list -tags $(TAGS) $(PKGS) 2>/dev/null | grep -v -e /e2e$$)
# the interface is tried in browsers side by side, one for each core of a small machine
BROWSERS := 2

.PHONY: demo build web test lint rules bench shots chromium compiler fuzz check-long clean

demo: build
	$(BIN) demo

build: web
	$(GO) build -trimpath -tags $(TAGS) -o $(BIN) ./cmd/hobrak

web: web/node_modules/.ready build/openapi.json
	cd web && npm run -s types && rm -rf dist/assets && npm run -s build

web/node_modules/.ready: web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	@touch $@

# The API is described by the server itself; the front end's types follow from it.
build/openapi.json: $(shell find internal cmd demo -name '*.go' -o -name '*.sql' -o -name '*.json') go.mod
	@mkdir -p build web/dist && touch web/dist/.gitkeep
	$(GO) build -tags $(TAGS) -o build/describe ./cmd/hobrak
	build/describe describe api > $@

lint: web rules

# rules are what lint goes through; the interface has been built before
rules:
	@test -z "$$(gofmt -l cmd demo e2e internal web/*.go)" || { gofmt -l cmd demo e2e internal web/*.go; echo "run gofmt"; exit 1; }
	$(GO) vet -tags $(TAGS) $(PKGS)
	$(GO) tool staticcheck -tags $(TAGS) $(PKGS)
	cd web && npm run -s check && npm run -s format && npm run -s lint && npm run -s spec

chromium:
	@command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || { apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium-headless-shell fonts-dejavu-core || apt-get install -y -qq --no-install-recommends chromium fonts-dejavu-core; }

# the race detector needs a C compiler
compiler:
	@command -v gcc >/dev/null || { apt-get update -qq && apt-get install -y -qq --no-install-recommends gcc libc6-dev; }

# A test draws the same shops each time it is asked for here, so that what it says is about the change; check-long draws others.
test: export RAPID_SEED ?= 20260
test: build chromium compiler
	$(GO) test -c -tags $(TAGS) -o build/e2e.test ./e2e
	$(MAKE) -s rules > build/lint.log 2>&1 & lint=$$!; \
	shown=""; for n in $$(seq $(BROWSERS)); do \
	  some=$$(cd e2e && ../build/e2e.test -test.list . | awk "NR % $(BROWSERS) == $$n - 1" | paste -sd "|"); [ -n "$$some" ] || exit 1; \
	  (cd e2e && ../build/e2e.test -test.timeout 40m -test.run "^($$some)\$$") > build/browser-$$n.log 2>&1 & shown="$$shown $$!"; \
	done; \
	(CGO_ENABLED=1 $(GO) test -race -tags $(TAGS) -timeout 40m ./internal/store && \
	 CGO_ENABLED=1 $(GO) test -race -tags $(TAGS) -timeout 40m -run '$(WATCHED)' ./internal/api) & raced=$$!; \
	$(GO) test -tags $(TAGS) -timeout 40m $(PLAIN); plain=$$?; \
	for p in $$raced $$lint $$shown; do wait $$p || plain=1; done; \
	cat build/browser-*.log build/lint.log; exit $$plain
	cd web && npm run -s test

# The long forms: more random shops, 200 kills, a minute of two programs, 3 000 power cuts, 100 000 broken files.
check-long: build
	HOBRAK_LONG=40 $(GO) test -tags $(TAGS) -timeout 10h -count=1 ./internal/core/... ./internal/store ./internal/api ./internal/exchange ./cmd/hobrak
	HOBRAK_LONG=1 $(GO) test -tags $(TAGS) -timeout 1h -count=1 -run "EnteredByKeyboard|FiguresOfALargeShop" ./e2e

bench: build
	$(GO) test -tags $(TAGS) -run '^$$' -bench . ./internal/... ./cmd/...

shots: build chromium
	HOBRAK_SHOTS=$(CURDIR)/docs/screenshots $(GO) test -tags $(TAGS) -count=1 -run TestShots ./e2e

fuzz:
	$(GO) test ./internal/core/length -run '^$$' -fuzz FuzzParse -fuzztime 20s
	$(GO) test ./internal/core/weight -run '^$$' -fuzz FuzzParse -fuzztime 20s
	$(GO) test ./internal/core/line -run '^$$' -fuzz FuzzParse -fuzztime 20s -fuzzminimizetime 1s
	$(GO) test ./internal/core/survey -run '^$$' -fuzz FuzzEnter -fuzztime 20s -fuzzminimizetime 1s
	$(GO) test ./internal/core/table -run '^$$' -fuzz FuzzRead -fuzztime 20s -fuzzminimizetime 1s
	$(GO) test ./internal/exchange -run '^$$' -fuzz FuzzReadTable -fuzztime 20s -fuzzminimizetime 1s
	$(GO) test ./internal/exchange -run '^$$' -fuzz FuzzReadZip -fuzztime 10s -fuzzminimizetime 1s
	$(GO) test ./internal/photo -run '^$$' -fuzz FuzzPrepare -fuzztime 15s -fuzzminimizetime 1s
	$(GO) test ./internal/core/shop -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 1s

clean:
	rm -rf build web/dist/assets web/dist/index.html
