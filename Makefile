# Two commands on a fresh machine: `make demo` and `make test`. Nothing is rebuilt that has not changed.
SHELL := /bin/bash
.SHELLFLAGS := -euo pipefail -c
.DEFAULT_GOAL := help
.DELETE_ON_ERROR:

PYTHON ?= python3
PORT ?= 8765
BIN := .venv/bin
# The lock files name everything, so nothing has to be resolved; what is never imported need not be compiled.
PIP := $(BIN)/pip install --quiet --quiet --disable-pip-version-check --no-deps --no-compile
# Every worker and server that the tests start would compile the whole program otherwise.
RUN_TESTS := PYTHONDONTWRITEBYTECODE= $(BIN)/python tools/run_tests.py
DIST := src/vivid_lattice/web_dist/index.html
# The texts of the core are part of the bundle: without them, a change of a text alone would leave an old one in use.
WEB_SOURCES := $(shell find web/src web/public src/vivid_lattice/core/messages/data -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json

.PHONY: help demo serve test test-fast test-slow planted-bugs lint lint-python lint-web web api-types bench shots clean chromium

help: ## what can be made
	@grep -E '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 12

demo: .stamps/run $(DIST) ## set up, build, and start with the demo jobs
	@exec $(BIN)/vivid-lattice serve --with-demo --port $(PORT)

serve: .stamps/run $(DIST) ## start with your own jobs
	@exec $(BIN)/vivid-lattice serve --port $(PORT)

web: $(DIST) ## build the front end

test: ## lint, types and all tests, over all cores
	@# What the tests need is set up side by side: Python's packages, the front end and the browser do not wait for each other.
	@$(MAKE) --no-print-directory -j3 .stamps/dev $(DIST) chromium
	$(RUN_TESTS) --with-lint

test-fast: .stamps/dev ## the core alone, without the other solver, for use while working
	$(RUN_TESTS) --without pandapower --without three_phase tests/core

test-slow: .stamps/dev ## the long sweeps, of which `make test` has samples
	$(RUN_TESTS) --slow

planted-bugs: .stamps/dev ## whether the tests find the bugs in tests/planted_bugs.toml
	$(BIN)/python tools/plant_bugs.py

chromium:
	@tools/need.sh chromium

lint: lint-python lint-web ## ruff, mypy, tsc, biome, and the API types against the server

lint-python: .stamps/dev
	$(BIN)/ruff format --check --quiet src tests tools bench
	$(BIN)/ruff check --quiet src tests tools bench
	$(BIN)/lint-imports --no-cache
	$(BIN)/mypy

lint-web: .stamps/dev .stamps/web
	cd web && npm run --silent types && npm run --silent lint
	@tools/api_types.sh --check

api-types: .stamps/dev .stamps/web ## types of the web from the server's OpenAPI document
	@tools/api_types.sh

bench: .stamps/dev $(DIST) ## the engine against pandapower, and key to paint in the browser
	$(BIN)/python bench/assess_against_pandapower.py
	$(BIN)/python bench/assess_texts.py
	$(BIN)/python bench/batch.py
	$(BIN)/python bench/first_job.py
	$(BIN)/python bench/protection.py
	$(BIN)/python bench/board.py
	$(BIN)/python bench/papers.py
	$(BIN)/python bench/diagnosis.py
	$(BIN)/python bench/plan.py
	$(BIN)/python bench/training.py
	@tools/need.sh chromium
	$(BIN)/python bench/key_to_paint.py

shots: .stamps/dev $(DIST) ## the pictures in docs/screenshots
	@tools/need.sh chromium
	$(BIN)/python tools/shots.py

clean: ## everything that was built, but no jobs
	rm -rf .venv .stamps web/node_modules src/vivid_lattice/web_dist

$(BIN)/python:
	@tools/need.sh python
	@echo "Setting up Python …"
	@$(PYTHON) -m venv .venv
	@# The pip that comes with Python may be old, and takes three times as long over the lock files.
	@$(PIP) --upgrade pip

.stamps/run: requirements.lock pyproject.toml | $(BIN)/python
	@mkdir -p .stamps
	@$(PIP) -r requirements.lock
	@$(PIP) -e .
	@touch $@

.stamps/dev: requirements-dev.lock .stamps/run
	@echo "Setting up what the tests need …"
	@$(PIP) -r requirements-dev.lock
	@touch $@

.stamps/web: web/package-lock.json web/package.json
	@tools/need.sh node
	@mkdir -p .stamps
	@echo "Setting up the front end …"
	@# Not `npm ci`: that refuses the whole lock where a registry lacks another platform's optional package.
	@cd web && npm install --no-save --loglevel=error --no-audit --no-fund >/dev/null
	@touch $@

$(DIST): $(WEB_SOURCES) .stamps/web
	@echo "Building the front end …"
	@cd web && npm run --silent build -- --logLevel warn
	@touch $@
