#!/usr/bin/env bash
# Sets up all that Oak Square needs, once: Debian packages for Qt and EGL, the environment, locked dependencies.
# Sourced by the other scripts; leaves PYTHON set. Quick and silent when nothing is to be done.
set -euo pipefail
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
VENV="${OAK_SQUARE_VENV:-$ROOT/.venv}"
PYTHON="$VENV/bin/python"
PACKAGES=(libegl1 libegl-mesa0 libgl1 libgl1-mesa-dri libxkbcommon0 libxkbcommon-x11-0 libdbus-1-3 libfontconfig1
          libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0
          libxcb-xinerama0 libxcb-xkb1 libglib2.0-0 libxrender1)

missing_packages() {
  command -v dpkg-query >/dev/null || return 0
  local name
  for name in "$@"; do
    # Newer releases have renamed some for 64-bit time: libglib2.0-0 is libglib2.0-0t64 there. Of two names one is
    # always unknown, which dpkg-query calls a failure: what it prints counts, not how it ends.
    case "$(dpkg-query -W -f='${Status}\n' "$name" "${name}t64" 2>/dev/null || true)" in
      *"ok installed"*) ;;
      *) printf '%s ' "$name" ;;
    esac
  done
}

find_python() {
  local name
  for name in "${OAK_SQUARE_PYTHON:-}" python3.11 python3; do
    if [ -n "$name" ] && command -v "$name" >/dev/null &&
       "$name" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      printf '%s' "$name"
      return
    fi
  done
  echo "oak-square: needs Python 3.11 or newer" >&2
  exit 1
}

set_up() {
  local stamp="$VENV/.oak-square" wanted base needed
  wanted="$(cat "$ROOT/pyproject.toml" "$ROOT/requirements.lock" "${BASH_SOURCE[0]}" | sha256sum | cut -d' ' -f1)"
  if [ -x "$PYTHON" ] && [ "$(cat "$stamp" 2>/dev/null)" = "$wanted" ]; then return; fi
  base="$(find_python)"
  needed="$(missing_packages "${PACKAGES[@]}")"
  if ! "$base" -c 'import ensurepip, venv' 2>/dev/null; then needed+="python3-venv "; fi
  if [ -n "$needed" ]; then
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
      echo "oak-square: installing $needed" >&2
      apt-get update -qq >&2
      # shellcheck disable=SC2086  # the list is to be split
      DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $needed >&2
    else
      echo "oak-square: please install these packages first: $needed" >&2
      exit 1
    fi
  fi
  echo "oak-square: making the environment in $VENV" >&2
  "$base" -m venv --clear "$VENV"
  "$PYTHON" -m pip install --quiet --disable-pip-version-check --require-hashes -r "$ROOT/requirements.lock" >&2
  "$PYTHON" -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e "$ROOT" >&2
  printf '%s' "$wanted" > "$stamp"
}

set_up
