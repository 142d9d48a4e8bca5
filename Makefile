# Fair Tangle. `make demo` needs Go alone; `make test` installs what it needs.
GO ?= go
export CGO_ENABLED = 0

# One set of flags for all, so that nothing is compiled twice. The tags leave out a
# format and a protocol that nothing here speaks.
export GOFLAGS = -trimpath -tags=nomsgpack,nethttpomithttp2

.PHONY: build demo run test plain race laws hands wander fuzz attack large mutate bench screenshots vendor browser dist

# What is built ships its pages packed; tests and `go run` read them as they lie. Pages and use cases, which only
# pass things on, are not inlined: that is 1.4 MB.
build:
	$(GO) run ./scripts/pack
	$(GO) build -tags=packed,nomsgpack,nethttpomithttp2 -gcflags='fairtangle/web/...=-l' -gcflags='fairtangle/studio/...=-l' -gcflags='fairtangle/store/...=-l' \
		-gcflags='gorm.io/...=-l' -gcflags='github.com/...=-l' -gcflags='net/...=-l' -gcflags='html/...=-l' -gcflags='text/...=-l' \
		-gcflags='golang.org/x/net/...=-l' -gcflags='golang.org/x/text/...=-l' -gcflags='encoding/...=-l' -gcflags='mime/...=-l' -gcflags='crypto/tls=-l' \
		-gcflags='crypto/x509/...=-l' -ldflags='-s -w' -o bin/fairtangle ./cmd/fairtangle

demo: build
	./bin/fairtangle demo

run: build
	./bin/fairtangle serve

# What is given away: a zip for each system, with licences, parts and sums.
VERSION ?= 0
dist:
	$(GO) run ./scripts/dist -version $(VERSION) -into dist

# Everything that is checked before a change lands. The laws are tried on the
# same cases every time, so that a change is judged alone; `make laws` tries
# them on new cases, and many more. The race detector watches where things happen
# at the same time.
# The two sorts of Go test are compiled at the same time, since each has one
# package that takes a core a minute.
test: export RAPID_SEED ?= 4711
test: browser build
	test $$(wc -c < bin/fairtangle) -lt 30000000
	$(MAKE) -j2 -O plain race
	node --test e2e/unit
	cd e2e && npx playwright test

plain:
	test -z "$$(gofmt -l $$(git ls-files '*.go'))"
	$(GO) mod tidy -diff
	$(GO) vet ./...
	$(GO) tool staticcheck ./...
	GOGC=400 $(GO) test -vet=off ./...

# The race detector makes the database twenty times slower, and sees nothing where one thing happens after
# the other: tests of what happens at the same time are called AtOnce.
race:
	CGO_ENABLED=1 $(GO) test -race -vet=off ./device
	CGO_ENABLED=1 GOGC=400 $(GO) test -race -vet=off -run AtOnce ./store ./web

laws:
	RAPID_CHECKS=10000 $(GO) test -timeout 30m -run 'Colour|MassIsKept' ./core/carding
	RAPID_CHECKS=2000 $(GO) test -timeout 30m ./core/...
	RAPID_CHECKS=1000 $(GO) test -timeout 30m -run 'NoBuilder|SentBack|StandsTwice' ./studio ./studio/calls

# The journeys of fast hands, at every delay of the answers.
hands: browser build
	cd e2e && HANDS=all npx playwright test hands

# Walks on new seeds for MINUTES, without a browser and then in it.
MINUTES ?= 10
wander: browser build
	$(GO) test ./web -run TestWanderer -v -timeout 0 -rapid.checks=1000000 -wander=$(MINUTES)m
	cd e2e && WANDER=$(MINUTES) npx playwright test wander

# Bytes by chance into everything that reads a file: a million for all of them together.
fuzz:
	for t in ReadLots Palette ReadSpectra ReadSheet ReadJPEGFacts ReadPhoto; do $(GO) test -run '^$$' -fuzz "^Fuzz$$t$$" -fuzztime 130000x ./formats || exit 1; done
	$(GO) test -run '^$$' -fuzz FuzzRecipe -fuzztime 130000x ./core/given
	$(GO) test -run '^$$' -fuzz FuzzTakeIn -fuzztime 100000x ./store/copies

# Does to a program of its own what must never hurt it; minutes long.
attack: build
	$(GO) run ./scripts/attack -load 5m bin/fairtangle
	$(GO) tool govulncheck ./... || echo "govulncheck: its database was not reached"

# Makes a studio of many years and says which pages take more than 60 times as long as an answer
# with nothing in it.
large: build
	$(GO) run ./scripts/large bin/fairtangle

# Changes one operator or constant of core at a time and says what no test notices.
mutate:
	RAPID_CHECKS=40 $(GO) run ./scripts/mutate -n 300 -seed 1

bench:
	$(GO) test -run '^$$' -bench . ./core/... ./studio ./web | awk -f scripts/bench.awk

screenshots: browser build
	cd e2e && npx playwright test --config screenshots.config.js

# What the browser tests need: Chromium from Debian, Playwright from npm.
browser:
	sh scripts/browser.sh

# Refresh the vendored front-end files from npm; they are committed.
vendor:
	sh scripts/vendor.sh
