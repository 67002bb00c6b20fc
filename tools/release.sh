#!/usr/bin/env bash
# Writes dist/pine-ladder-VERSION.tar.gz: what is committed, and the front end as it is built here.
set -euo pipefail
cd "$(dirname "$0")/.."
version=$(sed -n 's/^version = "\(.*\)"/\1/p' pyproject.toml)
name=pine-ladder-$version
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT
mkdir -p dist "$made/$name"
git archive HEAD | tar -x -C "$made/$name"
cp -r web/dist "$made/$name/web/dist"
echo "$version" >"$made/$name/web/dist/RELEASE"
tar -czf "dist/$name.tar.gz" -C "$made" "$name"
echo "▸ dist/$name.tar.gz: unpack it, then make serve"
