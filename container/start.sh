#!/bin/sh
# Bring the database to this program, then serve. While no gym is open, the log has the set-up code.
set -eu
cd "$(dirname "$0")/.."
ladder=.venv/bin/pine-ladder
tries=0
until "$ladder" gym migrate; do
  tries=$((tries + 1))
  [ "$tries" -lt 20 ] || { echo "The database did not answer: is PINE_LADDER_DATABASE_URL right?" >&2; exit 1; }
  sleep 3
done
if code=$("$ladder" gym code --in "${PINE_LADDER_BACKUPS:-/tmp}/set-up-code"); then
  echo "▸ No gym is open here yet. Open it in the browser with this set-up code: $code"
fi
exec "$ladder" serve --host 0.0.0.0 --port 8430 --processes "${PINE_LADDER_PROCESSES:-1}"
