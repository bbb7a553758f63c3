"""`python -m oak_square` is the command `oak-square`, and this is where both begin."""

import os
import signal
import sys

__all__ = ["main"]


def main() -> None:
    """Load the command line and run it; Ctrl+C before there is anything to stop ends without a word."""
    _open_streams()
    hears = signal.getsignal(signal.SIGINT) is signal.default_int_handler  # not where a shell has it ignored
    if hears:
        signal.signal(signal.SIGINT, signal.SIG_DFL)
    from oak_square import cli

    if hears:
        signal.signal(signal.SIGINT, signal.default_int_handler)
    cli.main()


def _open_streams() -> None:
    """Let streams that nobody has opened lead nowhere, before a file that is opened takes their place."""
    for number, name in enumerate(("stdin", "stdout", "stderr")):
        try:
            os.fstat(number)
        except OSError:
            os.open(os.devnull, os.O_RDONLY if number == 0 else os.O_WRONLY)  # the lowest number that is free
        if getattr(sys, name) is None:
            setattr(sys, name, os.fdopen(number, "r" if number == 0 else "w", closefd=False))


if __name__ == "__main__":
    main()
