# Every target does all it needs on a fresh machine with Python 3.11 and make.
PYTHON ?= python3
BIN := .venv/bin
SCRIPTS := src/mitten/web/static/*.js src/mitten/web/static/bench/*.js
DENO := DENO_DIR=.deno DENO_NO_UPDATE_CHECK=1 $(BIN)/deno

# Tests start many processes: each would translate all that it imports anew.
unexport PYTHONDONTWRITEBYTECODE

.DEFAULT_GOAL := help
.PHONY: help env env-dev chromium demo test sweep quick check bench model-doc plans-doc glossary-doc mutants screenshots lock vendor wheel hooks clean

help: ## Show this list
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:[^#]*## /\t/' | expand -t 16

env: .venv/ready-run ## The environment alone, in .venv, with the mitten command

demo: env ## Start with the demo data and print the address
	$(BIN)/mitten demo

test: env-dev chromium ## The tests: of the core, of the pages, and of the real interface in Chromium
	$(BIN)/pytest -q -n 3 --dist worksteal -m "not sweep"

sweep: env-dev chromium ## The same questions, asked of many more designs, requests and walks
	$(BIN)/pytest -q -n 3 --dist worksteal -m sweep

quick: env-dev ## The tests that take less than a second each, and all that is held; without the browser
	$(BIN)/pytest -q -n 2 --dist worksteal -m "not slow and not sweep" --ignore=tests/browser

check: env-dev ## Format, lint, types, of the scripts too, and the floors' imports
	$(BIN)/ruff format --check .
	$(BIN)/ruff check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(DENO) lint -q $(SCRIPTS)
	$(DENO) check -q $(SCRIPTS)

bench: env-dev chromium ## Speed, as ratios beside general-purpose libraries
	$(BIN)/python -m bench

mutants: env-dev ## Put 200 small faults into the core and see which no test notices
	test -f .mutants/notes.json || $(BIN)/python -m tools.mutants --note
	$(BIN)/python -m tools.mutants

model-doc: env-dev ## Fill in the tables of docs/model.md from the code
	$(BIN)/python -m tools.model_doc

plans-doc: env-dev ## Find the plans of docs/plans.md again
	$(BIN)/python -m tools.plans_doc

glossary-doc: env-dev ## Write docs/glossary.md again
	$(BIN)/python -m tools.glossary_doc

screenshots: env-dev chromium ## Make the pictures of docs/screenshots from the demo data
	$(BIN)/python -m tools.screenshots

wheel: env ## Build the wheel into dist/
	$(BIN)/python -m pip wheel -q --disable-pip-version-check --no-deps --no-build-isolation -w dist .

hooks: env-dev ## Have the checks run before every commit
	$(BIN)/pre-commit install

lock: ## Make both lock files again (needs uv)
	uv pip compile --python-version 3.11 --universal requirements.in --generate-hashes --no-header --no-annotate -q -o requirements.lock
	uv pip compile --python-version 3.11 --universal requirements-dev.in -c requirements.lock --generate-hashes --no-header --no-annotate -q -o requirements-dev.lock

vendor: ## Copy the shipped styles, scripts and fonts again (needs npm)
	tools/vendor.sh

clean: ## Remove the environment and caches
	rm -rf .venv .deno .mypy_cache .ruff_cache .import_linter_cache .hypothesis test-results dist

env-dev: .venv/ready-dev

.venv/bin/python:
	$(PYTHON) -m venv .venv

.venv/ready-run: requirements.lock pyproject.toml | .venv/bin/python
	$(BIN)/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements.lock
	$(BIN)/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
	$(BIN)/python -m mitten.core.plan.search.warm
	@touch $@

.venv/ready-dev: requirements-dev.lock .venv/ready-run
	$(BIN)/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements-dev.lock
	@touch $@

# Debian's Chromium drives the browser tests; without root we can only say what to do.
chromium:
	@command -v chromium >/dev/null || { \
	  if [ "$$(id -u)" = 0 ] && command -v apt-get >/dev/null; then \
	    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium chromium-headless-shell >/dev/null; \
	  else \
	    echo "The browser tests need Chromium: install your system's 'chromium' package, then run this again." >&2; exit 1; \
	  fi; }
