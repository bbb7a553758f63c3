#!/usr/bin/env bash
# Sets up what is missing, runs the linters and all tests, and prints the tests' share of the code.
source "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
cd "$ROOT"
export QT_QPA_PLATFORM=offscreen
BIN="$VENV/bin"
"$BIN/ruff" check .
"$BIN/ruff" format --check .
"$BIN/mypy"
"$BIN/lint-imports"
"$PYTHON" scripts/share.py
"$PYTHON" -m pytest -n 2 --dist loadfile "$@"
