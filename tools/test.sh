#!/usr/bin/env bash
# The whole suite, quick checks first. PYTEST_ARGS are handed on to pytest.
set -euo pipefail
cd "$(dirname "$0")/.."
bash tools/setup.sh --browser
step() { printf '▸ %s\n' "$*"; }
step "Lint and format"
.venv/bin/ruff check --quiet .
.venv/bin/ruff format --check --quiet .
(cd web && npm run --silent lint -- --error-on-warnings --reporter=summary)
step "Import contracts"
.venv/bin/lint-imports --no-logo
step "Types"
.venv/bin/mypy
(cd web && npm run --silent types)
step "Tests"
exec .venv/bin/python -m pytest ${PYTEST_ARGS:-}
