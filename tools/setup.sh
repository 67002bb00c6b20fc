#!/usr/bin/env bash
# Installs what is missing and builds the front end. Safe to run again, and from two places at
# once. Usage: tools/setup.sh [--browser]   (--browser: Chromium too, for the tests)
set -euo pipefail
cd "$(dirname "$0")/.."
mkdir -p .pine
exec 9>.pine/setup.lock
flock 9

say() { printf '▸ %s\n' "$*"; }

missing=()
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || missing+=(postgresql)
[ "${1:-}" = --browser ] && ! command -v chromium >/dev/null && missing+=(chromium)
# The tests hold the page on running a gym against the server it names.
[ "${1:-}" = --browser ] && [ ! -x /usr/sbin/nginx ] && missing+=(nginx-light openssl)
python=$(command -v python3.11 || command -v python3 || true)
[ -n "$python" ] || { echo "Python 3.11 is needed and was not found." >&2; exit 1; }
"$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
  { echo "Python 3.11 or newer is needed; $python is older." >&2; exit 1; }
"$python" -c 'import ensurepip' 2>/dev/null || missing+=("python$("$python" -c \
  'import sys; print("%d.%d" % sys.version_info[:2])')-venv")
# A release holds the front end built: it runs without Node. Only the tests need it then.
node=$(node --version 2>/dev/null | sed 's/^v\([0-9]*\).*/\1/')
built=
if [ -z "$node" ] || [ "$node" -lt 20 ] || ! command -v npm >/dev/null; then
  if [ -f web/dist/RELEASE ] && [ "${1:-}" != --browser ]; then
    built=1
  else
    echo "Node 20 with npm is needed to build the front end; $([ -n "$node" ] && echo "this is Node $node" || echo "none was found")." >&2
    echo "Debian 12 has Node 18: install Node 20 from its makers, or use a release archive" >&2
    echo "(make release on a machine with Node 20), which runs without Node." >&2
    exit 1
  fi
fi

if [ ${#missing[@]} -gt 0 ]; then
  say "Installing ${missing[*]} from Debian (a minute or two)"
  if [ "$(id -u)" = 0 ]; then root=()
  elif command -v sudo >/dev/null && sudo -n true 2>/dev/null; then root=(sudo)
  else
    echo "These Debian packages are missing: ${missing[*]}" >&2
    echo "Installing them needs root. Run: sudo apt-get install ${missing[*]}" >&2
    exit 1
  fi
  # Nothing that comes with them is started: the project runs its own servers.
  "${root[@]}" apt-get update -qq
  "${root[@]}" env DEBIAN_FRONTEND=noninteractive RUNLEVEL=1 apt-get install -y -qq \
    --no-install-recommends "${missing[@]}" >.pine/apt.log 2>&1 ||
    { tail -n 20 .pine/apt.log >&2; echo "apt-get could not install ${missing[*]}" >&2; exit 1; }
fi

# A step is done again when what it depends on has changed.
changed() { [ "$(cat ".pine/$1.stamp" 2>/dev/null)" != "$2" ]; }
done_with() { echo "$2" >".pine/$1.stamp"; }
digest() { cat "$@" | sha256sum | cut -d' ' -f1; }

wanted=$(digest requirements/dev.lock pyproject.toml)$PWD
if changed python "$wanted" || [ ! -x .venv/bin/pine-ladder ]; then
  say "Installing Python packages into .venv"
  [ -x .venv/bin/python ] && .venv/bin/python -c '' 2>/dev/null || "$python" -m venv --clear .venv
  .venv/bin/pip install --quiet --disable-pip-version-check --require-hashes \
    -r requirements/dev.lock 2> >(grep -v '^WARNING: Location' >&2)
  .venv/bin/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e . \
    2> >(grep -v '^WARNING: Location' >&2)
  done_with python "$wanted"
fi

[ -z "$built" ] || exit 0
wanted=$(digest web/package-lock.json web/package.json)
if changed npm "$wanted" || [ ! -d web/node_modules ]; then
  say "Installing front-end packages into web/node_modules"
  (cd web && npm ci --loglevel error --no-audit --no-fund)
  done_with npm "$wanted"
fi

wanted=$(digest web/package-lock.json web/index.html web/wall.html web/vite.config.ts \
  $(find web/src web/public -type f | LC_ALL=C sort))
if changed web "$wanted" || [ ! -f web/dist/index.html ]; then
  say "Building the front end"
  rm -rf web/dist-new web/dist-old
  (cd web && PINE_LADDER_DIST=dist-new npx vite build --logLevel warn)
  [ -d web/dist ] && mv web/dist web/dist-old
  mv web/dist-new web/dist
  rm -rf web/dist-old
  done_with web "$wanted"
fi
