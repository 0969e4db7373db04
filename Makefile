# Weary Cedar: `make demo` serves the app with demo data, `make test` runs all tests.
PYTHON ?= $(shell command -v python3.11 || command -v python3)
PORT ?= 8642
DATA ?= data
MINUTES ?= 10
KILLS ?= 1000
SAMPLE ?= 300
SEED ?= 1
VENV := .venv
STAMPS := .make
PIP := $(VENV)/bin/python -m pip --quiet --disable-pip-version-check
LOCKED = $(PIP) install --require-hashes --no-deps -r
BIN := $(CURDIR)/$(STAMPS)/bin
# Node that the set-up brought, where the machine has none or an old one.
export PATH := $(BIN):$(PATH)
SUDO := $(shell [ "$$(id -u)" = 0 ] || command -v sudo)
FRONTEND := $(shell find frontend/src frontend/worker frontend/public -type f 2>/dev/null) frontend/index.html $(wildcard frontend/vite*.ts docs/guide/*.md docs/screenshots/*.png)

.PHONY: setup demo test check bench fuzz soak mutants types catalogue clean browser compiled

setup: $(STAMPS)/runtime $(STAMPS)/built

demo: setup compiled
	$(VENV)/bin/weary-cedar serve --port $(PORT) --data $(DATA)

test: setup $(STAMPS)/development compiled browser
	@echo "== the front end's own logic" && cd frontend && npm run --silent test
	$(VENV)/bin/python backend/tests

check: setup $(STAMPS)/development
	$(VENV)/bin/ruff check backend
	$(VENV)/bin/ruff format --check backend
	$(VENV)/bin/mypy --config-file backend/pyproject.toml backend/src backend/tests backend/compile.py backend/mutants.py
	cd backend && ../$(VENV)/bin/lint-imports --config pyproject.toml
	cd frontend && npx biome check . && npm run --silent typecheck
	sh frontend/api/check-drift.sh $(VENV)/bin/weary-cedar

bench: setup $(STAMPS)/development compiled browser
	$(VENV)/bin/python backend/bench/bench.py

# Plans at the bounds of the schema, with fresh seeds, for as long as one likes: make fuzz MINUTES=60
fuzz: setup $(STAMPS)/development
	$(VENV)/bin/python backend/tests/fuzz/__main__.py --minutes $(MINUTES)

# A thousand kills of a writer, copies opened: make soak KILLS=5000
soak: setup $(STAMPS)/development
	rm -rf $(STAMPS)/soak && mkdir -p $(STAMPS)/soak
	$(VENV)/bin/python backend/tests/store/kills.py $(STAMPS)/soak $(KILLS)

# Changes one thing in the core at a time; lists what no test notices: make mutants SAMPLE=60 SEED=7
# (a long one in parts: AFTER=150 leaves out the first so many of the sample)
mutants: setup $(STAMPS)/development
	@$(LOCKED) backend/requirements-mutants.lock
	$(VENV)/bin/python backend/mutants.py --sample $(SAMPLE) --seed $(SEED) --after $(AFTER)

types: $(STAMPS)/runtime $(STAMPS)/node
	$(VENV)/bin/weary-cedar openapi > frontend/api/openapi.json
	cd frontend && npm run --silent types

catalogue: $(STAMPS)/runtime
	$(VENV)/bin/weary-cedar check --explain all > docs/checks.md

# Debian's Chromium, where there is none.
browser:
	@command -v chromium >/dev/null || { $(SUDO) apt-get update -q && $(SUDO) apt-get install -y -q --no-install-recommends chromium; }

# The run as machine code, where there is a C compiler; it is built anew only when its source is another.
compiled: $(STAMPS)/runtime
	@if $(VENV)/bin/python backend/compile.py --wanted; then $(MAKE) --no-print-directory $(STAMPS)/compiler && $(VENV)/bin/python backend/compile.py; fi

clean:
	rm -rf $(VENV) $(STAMPS) frontend/node_modules $(addprefix backend/src/weary_cedar/,api/static formats/page compiled)

$(STAMPS)/runtime: backend/requirements.lock backend/pyproject.toml
	@mkdir -p $(STAMPS)
	@echo "Setting up Python in $(VENV) …"
	@$(PYTHON) -c 'import ensurepip, venv' 2>/dev/null || { $(SUDO) apt-get update -q && $(SUDO) apt-get install -y -q python3-venv; }
	@$(PYTHON) -m venv $(VENV)
	@echo "Installing what the app needs …"
	@$(LOCKED) backend/requirements.lock
	@$(PIP) install --no-deps --no-build-isolation -e backend
	@$(VENV)/bin/python -m compileall -q backend/src
	@touch $@

$(STAMPS)/compiler: backend/requirements-compile.lock $(STAMPS)/runtime
	@echo "Installing what makes machine code of the run …"
	@$(LOCKED) backend/requirements-compile.lock
	@touch $@

$(STAMPS)/development: backend/requirements-dev.lock $(STAMPS)/compiler
	@echo "Installing what tests and checks need …"
	@$(LOCKED) backend/requirements-dev.lock
	@touch $@

# Node 20 or newer: that of the machine, else from the Python registry.
$(STAMPS)/node-here: backend/requirements-node.lock $(STAMPS)/runtime
	@sh backend/node.sh $(VENV) $(BIN) backend/requirements-node.lock
	@touch $@

$(STAMPS)/node: frontend/package-lock.json $(STAMPS)/node-here
	@echo "Installing what the screens are built with …"
	@cd frontend && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

$(STAMPS)/built: $(STAMPS)/node $(FRONTEND) frontend/src/api/schema.gen.ts
	@echo "Building the screens …"
	@cd frontend && npm run --silent build
	@touch $@
