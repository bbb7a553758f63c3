#!/usr/bin/env bash
# Sets up what is missing and opens the window on the demo batch. Arguments go on to `oak-square demo`.
source "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
exec "$PYTHON" -m oak_square demo "$@"
