# Fern Match: `make demo` sets up and starts the app; `make test` sets up what tests need and runs them.
SHELL := /bin/bash
PY := .venv/bin/python
STAMPS := .stamps
PORT ?= 8765
export PYTHONPATH :=
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo demo-reset dev setup build check test campaign bench shots client browser

setup: $(STAMPS)/python $(STAMPS)/web
build: $(STAMPS)/build

$(STAMPS)/python: requirements.lock.txt pyproject.toml
	@mkdir -p $(STAMPS)
	@test -x $(PY) || python3 -m venv .venv
	@$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock.txt
	@$(PY) -m pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

$(STAMPS)/web: web/package-lock.json
	@mkdir -p $(STAMPS)
	@cd web && npm ci --silent --no-progress
	@touch $@

WEB_SOURCES := $(shell find web/src web/index.html web/vite.config.ts -type f 2>/dev/null)
$(STAMPS)/build: $(STAMPS)/web $(WEB_SOURCES)
	@cd web && npm run --silent build
	@touch $@

demo: $(STAMPS)/python $(STAMPS)/build
	@$(PY) -m fern_match.cli serve --demo --port $(PORT)

demo-reset:
	@rm -f var/fern-match.db var/fern-match.db-wal var/fern-match.db-shm
	@$(MAKE) --no-print-directory demo

dev: setup
	@trap 'kill 0' EXIT; $(PY) -m fern_match.cli serve --demo --port $(PORT) & cd web && npm run dev

client: setup
	@mkdir -p var
	@$(PY) -m fern_match.cli openapi > var/openapi.json
	@cd web && npm run --silent client
	@$(PY) -m fern_match.cli schema > docs/formats/match.schema.json

check: setup
	@$(PY) -m ruff format --check --quiet src tests benchmarks
	@$(PY) -m ruff check --quiet src tests benchmarks
	@$(PY) -m mypy --no-error-summary
	@$(PY) -m mypy --no-error-summary benchmarks
	@cd web && npm run --silent format && npm run --silent lint && npm run --silent types
	@bash .ci/drift

browser:
	@test -x /usr/bin/chromium-headless-shell || (apt-get update -qq && apt-get install -y -qq chromium-headless-shell >/dev/null) || \
	  (echo "Chromium could not be installed; the browser tests need /usr/bin/chromium-headless-shell (Debian: chromium-headless-shell)." && false)

test: setup browser build check
	@cd web && npm run --silent test
	@OPENBLAS_NUM_THREADS=1 OMP_NUM_THREADS=1 $(PY) -m pytest -n 2

# The same tests with many more and fresh examples, and 300 kills: before a release, not at each commit.
campaign: setup build browser
	@FERN_MATCH_CAMPAIGN=1 FERN_MATCH_KILLS=300 OPENBLAS_NUM_THREADS=1 OMP_NUM_THREADS=1 $(PY) -m pytest -n 2

# One thread for array work: the figures are of one core, and two estimates run beside each other.
bench: setup
	@OPENBLAS_NUM_THREADS=1 OMP_NUM_THREADS=1 $(PY) benchmarks/run.py

shots: setup browser build
	@$(PY) docs/screenshots/take.py
