#!/usr/bin/env bash
# Sets up what is missing, runs the linters and all tests, and prints the tests' share of the code.
source "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
cd "$ROOT"
# Two test processes share the cores: threads of their own in each make both wait.
export QT_QPA_PLATFORM=offscreen LP_NUM_THREADS=0 OPENBLAS_NUM_THREADS=1
BIN="$VENV/bin"
"$BIN/ruff" check .
"$BIN/ruff" format --check .
"$BIN/mypy"
"$BIN/lint-imports"
"$PYTHON" scripts/share.py
"$PYTHON" -m pytest -n 2 --dist loadfile "$@"
