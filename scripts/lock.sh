#!/usr/bin/env bash
# Writes requirements/*.lock anew from pyproject.toml, with hashes: what the workbench runs with (run), what it is built
# with (build), and both with the tools for working on it (dev). Names no registry, so that any mirror will do.
set -euo pipefail
cd "$(dirname "$0")/.."
tools=$(mktemp -d)
trap 'rm -rf "$tools"' EXIT
python3 -m venv "$tools"
"$tools/bin/pip" install --quiet --disable-pip-version-check pip-tools
compile() {
  "$tools/bin/pip-compile" --quiet --upgrade --generate-hashes --allow-unsafe --strip-extras --no-header \
    --no-emit-index-url --no-emit-find-links --no-emit-trusted-host "$@" pyproject.toml
}
compile --output-file requirements/build.lock --build-deps-for editable --only-build-deps
compile --output-file requirements/run.lock
compile --output-file requirements/dev.lock --extra dev --constraint requirements/run.lock
