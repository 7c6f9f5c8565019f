# Glad Stack: `make demo` and `make test` set up all they need; nothing is done twice.

PYTHON ?= python3.11
VENV := .venv
BIN := $(VENV)/bin
STAMPS := .stamps
CORE := $(shell find gladstack/core -name '*.py')
WEB := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json
PORT ?= 8737

# Two things at once where neither needs the other: compiling ahead beside the front end, types beside the screen's checks.
MAKEFLAGS += --jobs=2

.PHONY: demo demo-looks test setup dev bench check check-style check-types check-web fix openapi screenshots release clean

demo: setup
	$(BIN)/gladstack serve --demo --data data --port $(PORT)

setup: $(STAMPS)/front-end $(STAMPS)/warm

HEART := tests/core tests/recipe tests/shop

# Three workers on two cores, for much of what is done in a browser is waiting; the inner loops as plain Python, in which
# every index is checked, and the screen's own tests beside them.
test: setup $(STAMPS)/browser
	{ cd web && npm test --silent; } & screen=$$!; \
	  NUMBA_DISABLE_JIT=1 $(BIN)/pytest tests/kernels & loops=$$!; \
	  $(BIN)/pytest --numprocesses 3 --dist worksteal --ignore=tests/kernels; all=$$?; \
	  wait $$loops || all=1; wait $$screen || all=1; exit $$all

check: check-types check-style check-web

check-types: $(STAMPS)/python
	$(BIN)/mypy

check-style: $(STAMPS)/python
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/python scripts/write_openapi.py | diff -q - docs/openapi.json

# After the front end, for both write the types of the API.
check-web: $(STAMPS)/front-end
	cd web && npm run --silent check

fix: setup
	$(BIN)/ruff check --fix .
	$(BIN)/ruff format .
	cd web && npm run --silent fix

openapi: $(STAMPS)/python $(STAMPS)/npm
	$(BIN)/python scripts/write_openapi.py > docs/openapi.json
	cd web && npm run --silent types

bench: setup $(STAMPS)/browser
	$(BIN)/python -m bench.run
	$(BIN)/python -m bench.found
	$(BIN)/python -m bench.outlined
	$(BIN)/python -m bench.lost
	$(BIN)/python -m bench.between
	$(BIN)/python -m bench.kinds
	$(BIN)/python -m bench.slanted
	$(BIN)/python -m bench.foreign
	$(BIN)/python -m bench.robust
	$(BIN)/python -m bench.served
	$(BIN)/python -m bench.hostile
	$(BIN)/python -m bench.kills
	$(BIN)/python -m bench.clients
	$(BIN)/python -m bench.written
	$(BIN)/python -m bench.laying
	$(BIN)/python -m bench.jobs
	$(BIN)/python -m bench.proof
	$(BIN)/python -m bench.sources
	$(BIN)/python -m bench.cutting
	$(BIN)/python -m bench.panning
	$(BIN)/python -m bench.pages
	$(BIN)/python -m bench.mutants 60
	GLADSTACK_KILLS=100 $(BIN)/pytest tests/test_serve.py -k kill
	GLADSTACK_EXAMPLES=1 $(BIN)/pytest $(HEART) tests/api

# A wheel with the front end in it, tried where there is nothing else.
release: setup
	rm -rf build dist
	$(BIN)/pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist .
	$(BIN)/python scripts/try_wheel.py dist/gladstack-*.whl

screenshots: setup $(STAMPS)/browser
	$(BIN)/python scripts/take_screenshots.py
	$(BIN)/python scripts/take_guide_pictures.py

demo-looks: setup
	$(BIN)/python scripts/make_demo_looks.py

dev: setup
	$(BIN)/gladstack serve --demo --data data & server=$$!; trap "kill $$server" EXIT; cd web && npm run dev

$(STAMPS)/python: requirements.txt requirements-dev.txt pyproject.toml
	@mkdir -p $(STAMPS)
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/pip install --quiet --disable-pip-version-check -r requirements-dev.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

$(STAMPS)/npm: web/package.json web/package-lock.json
	@mkdir -p $(STAMPS)
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

$(STAMPS)/front-end: $(STAMPS)/npm $(WEB)
	cd web && npm run --silent build
	@touch $@

# Compiled loops are cached by file, so a change in one that others call must forget them all.
$(STAMPS)/warm: $(STAMPS)/python $(CORE)
	find gladstack/core -name '*.nb[ic]' -delete
	$(BIN)/gladstack warm
	@touch $@

# Chromium and its driver come from the system's packages, and only where they are missing.
$(STAMPS)/browser:
	@mkdir -p $(STAMPS)
	{ test -x /usr/bin/chromium && test -x /usr/bin/chromedriver; } || \
	  { apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium chromium-driver; }
	@touch $@

clean:
	rm -rf $(VENV) $(STAMPS) web/node_modules gladstack/web_dist
