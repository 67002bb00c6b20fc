#!/usr/bin/env bash
# Server and front end with hot reload, on the demo database. Ctrl-C ends both.
set -euo pipefail
cd "$(dirname "$0")/.."
PINE_LADDER_DATABASE_URL=$(python3 tools/cluster.py start)
export PINE_LADDER_DATABASE_URL
.venv/bin/pine-ladder gym migrate
.venv/bin/pine-ladder gym demo
.venv/bin/uvicorn pine_ladder.api.app:create_app --factory --reload --reload-dir pine_ladder \
  --port 8421 &
trap 'kill $!' EXIT
cd web && PINE_LADDER_BACKEND=http://127.0.0.1:8421 npx vite
