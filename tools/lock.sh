#!/usr/bin/env bash
# Renews the lock files from pyproject.toml: exact versions and hashes, no registry host.
set -eu
cd "$(dirname "$0")/.."
python3 -m venv .pine/lock-venv
.pine/lock-venv/bin/pip -q install uv
compile() {
  .pine/lock-venv/bin/uv pip compile --quiet --generate-hashes --python-version 3.11 \
    --no-emit-index-url --no-emit-find-links --no-annotate --custom-compile-command "make lock" "$@"
}
compile pyproject.toml --extra dev -o requirements/dev.lock
echo "requirements/dev.lock renewed"
