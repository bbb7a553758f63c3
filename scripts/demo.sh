#!/usr/bin/env bash
# Sets up what is missing and opens the window on the demo batch. Arguments go on to `oak-square demo`.
source "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
if [ -z "${DISPLAY:-}${WAYLAND_DISPLAY:-}${QT_QPA_PLATFORM:-}" ]; then
  echo "oak-square: no display here: the window runs offscreen; give --shot FILE.png to see it" >&2
  export QT_QPA_PLATFORM=offscreen
fi
exec "$PYTHON" -m oak_square demo "$@"
