#!/usr/bin/env bash
# The whole suite, quick checks first; --quick runs those alone. PYTEST_ARGS go on to pytest.
set -euo pipefail
cd "$(dirname "$0")/.."
quick=
[ "${1:-}" = --quick ] && quick=yes
bash tools/setup.sh $([ -n "$quick" ] || echo --browser)
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
step "Tests of the front end"
(cd web && npm run --silent test -- --reporter=dot)
step "Tests"
if [ -n "$quick" ]; then
  PINE_LADDER_EXAMPLES=20 exec .venv/bin/python -m pytest tests/core ${PYTEST_ARGS:-}
fi
exec .venv/bin/python -m pytest ${PYTEST_ARGS:-}
