# make demo, make test: everything on a fresh machine. make help lists the rest.
BENCH = PYTHONPATH=tools:tests .venv/bin/python bench/run.py

.PHONY: help setup demo demo-reset stop dev serve check mutants audit fit folds test release bench soak lint format types openapi lock shots

help: ## this list
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed 's/:.*## /\t/' | expand -t 14

setup: ## install what is missing and build the front end
	@bash tools/setup.sh

demo: setup ## start the demo gym and print address and sign-ins
	@.venv/bin/python tools/demo.py start

demo-reset: setup ## start the demo gym over, forgetting what was entered
	@.venv/bin/python tools/demo.py start --reset

stop: ## stop what make demo or make dev started
	@python3 tools/demo.py stop

dev: setup ## the demo with hot reload of server and front end
	@bash tools/dev.sh

serve: setup ## the gym's own application, on its own database
	@.venv/bin/python tools/gym.py

check: ## the quick part: lint, types, contracts, the front end's tests, core
	@bash tools/test.sh --quick

mutants: setup ## plant faults in the core, module by module, and print the share that is caught
	@.venv/bin/python tools/mutants.py $(MODULES)

audit: setup ## predictions over the whole library that a coach would call absurd
	@.venv/bin/python tools/audit.py

fit: setup ## fit the pace model and write it; says of each stated fact what is predicted
	@.venv/bin/python tools/fit.py --write

folds: setup ## the fit with each second opinion left out once (minutes)
	@.venv/bin/python tools/fit.py --folds

test: ## lint, types, contracts and the whole suite; TODAY=2026-12-31T23:55 has it be that moment
	@PINE_LADDER_TODAY=$(TODAY) bash tools/test.sh

release: setup ## an archive that runs without Node: the checkout and the built front end
	@bash tools/release.sh

bench: setup ## speed, as ratios from one run
	@$(BENCH)

soak: setup ## an hour of a full class, server and database killed once each (MINUTES=60)
	@PYTHONPATH=tools:bench .venv/bin/python bench/soak.py $(or $(MINUTES),60)

lint: ## ruff, Biome, import contracts
	.venv/bin/ruff check . && .venv/bin/ruff format --check . && .venv/bin/lint-imports
	cd web && npm run --silent lint

types: ## mypy and tsc
	.venv/bin/mypy && cd web && npm run --silent types

format: ## format Python and TypeScript
	.venv/bin/ruff check --fix . && .venv/bin/ruff format . && cd web && npx biome check --write

openapi: ## renew the API description and the types made from it
	.venv/bin/pine-ladder openapi > web/openapi.json && cd web && npm run --silent api-types
	.venv/bin/python tools/vectors.py
	for name in plan check clock testrun dose score figure read; do \
	  .venv/bin/pine-ladder schema $$name > docs/schemas/$$name.json; done
	.venv/bin/pine-ladder schema records > docs/schemas/records.json

lock: ## renew the Python lock file
	bash tools/lock.sh

shots: setup ## renew the pictures in docs/screenshots from the running demo
	.venv/bin/python tools/shots.py
