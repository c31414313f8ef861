# make demo and make test do everything on a fresh Debian with Go, Node and make.
SHELL := /bin/bash
GO    := go
TAGS  := nomsgpack
# not ./...: some front-end packages carry Go files of their own
PKGS  := ./cmd/... ./demo/... ./e2e/... ./internal/... ./web
BIN   := build/hobrak

.PHONY: demo build web test lint bench shots chromium fuzz clean

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

lint: web
	@test -z "$$(gofmt -l cmd demo e2e internal web/*.go)" || { gofmt -l cmd demo e2e internal web/*.go; echo "run gofmt"; exit 1; }
	$(GO) vet -tags $(TAGS) $(PKGS)
	$(GO) tool staticcheck -tags $(TAGS) $(PKGS)
	cd web && npm run -s check && npm run -s lint

chromium:
	@command -v chromium >/dev/null || { apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium fonts-dejavu-core; }

test: build lint chromium
	cd web && npm run -s test
	$(GO) test -tags $(TAGS) -timeout 40m $(PKGS)

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
