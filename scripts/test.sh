#!/usr/bin/env bash
# Sets up what is missing, runs the linters and all tests, and prints the tests' share of the code.
source "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
cd "$ROOT"
# More test processes than cores: many tests wait for a command to end. Threads of their own would make all wait.
# Hundreds of processes are started: what Python compiles of ours for one serves the next.
unset PYTHONDONTWRITEBYTECODE
export QT_QPA_PLATFORM=offscreen LP_NUM_THREADS=0 OPENBLAS_NUM_THREADS=1
BIN="$VENV/bin"
"$BIN/ruff" check .
"$BIN/ruff" format --check .
"$BIN/mypy"
"$BIN/lint-imports"
"$PYTHON" scripts/share.py
# The standard body's validator of glTF: a check for developers, where Node.js is there to run it.
if command -v npm >/dev/null && [ ! -d scripts/validator/node_modules/gltf-validator ]; then
  npm ci --prefix scripts/validator --no-audit --no-fund --silent ||
    echo "oak-square: the glTF validator can't be set up; its test is skipped" >&2
fi
# With --long, four times as much is drawn at random.
if [ "${1:-}" = --long ]; then
  export OAK_SQUARE_LONG=1
  shift
fi
"$PYTHON" -m pytest -n 4 --dist worksteal "$@"
