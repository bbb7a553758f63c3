"""Whether there is a display that answers, asked without a toolkit: one that finds none ends the process."""

from __future__ import annotations

import os
import re
import socket
from collections.abc import Mapping
from pathlib import Path

__all__ = ["has_display"]

_LONGEST_S = 2.0


def has_display(environment: Mapping[str, str] = os.environ) -> bool:
    """Tell whether the Wayland or X display that the environment names takes a connection."""
    wayland, x = environment.get("WAYLAND_DISPLAY"), environment.get("DISPLAY")
    return (bool(wayland) and _is_answering(_wayland_place(environment, wayland or ""))) or (
        bool(x) and _x_answers(x or "")
    )


def _wayland_place(environment: Mapping[str, str], name: str) -> str:
    return str(Path(environment.get("XDG_RUNTIME_DIR", "/")) / name)


def _x_answers(display: str) -> bool:
    match = re.fullmatch(r"(?:(?P<kind>unix|tcp|inet6?)/)?(?P<host>[^:/]*):(?P<number>\d+)(?:\.\d+)?", display)
    if match is None:
        return _is_answering(display)  # a socket by its path
    number, host = int(match["number"]), match["host"]
    if host in {"", "unix"} or match["kind"] == "unix":
        place = f"/tmp/.X11-unix/X{number}"
        return _is_answering(f"\0{place}") or _is_answering(place)
    try:
        with socket.create_connection((host, 6000 + number), timeout=_LONGEST_S):
            return True
    except OSError:
        return False


def _is_answering(place: str) -> bool:
    try:
        with socket.socket(socket.AF_UNIX) as there:
            there.settimeout(_LONGEST_S)
            there.connect(place)
            return True
    except (OSError, ValueError):
        return False
