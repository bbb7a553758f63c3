#!/usr/bin/env bash
# Puts small faults into chosen modules one by one, runs the tests that should see them, and tells the score.
# The modules and tests are named in pyproject.toml. Arguments go on to `mutmut run`.
source "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
cd "$ROOT"
export QT_QPA_PLATFORM=offscreen OPENBLAS_NUM_THREADS=1
"$VENV/bin/mutmut" run --max-children 2 "$@" || true
"$VENV/bin/mutmut" export-cicd-stats >/dev/null 2>&1 || true
"$PYTHON" - <<'END'
import json
from pathlib import Path

stats = json.loads(Path("mutants/mutmut-cicd-stats.json").read_text())
seen, all_of_them = stats["killed"] + stats["timeout"], stats["total"] - stats["skipped"]
print(f"{seen} of {all_of_them} faults were seen by the tests ({100 * seen / max(1, all_of_them):.0f} %)")
END
