"""`python -m oak_square` is the command `oak-square`, and this is where both begin."""

import signal

__all__ = ["main"]


def main() -> None:
    """Load the command line and run it; Ctrl+C before there is anything to stop ends without a word."""
    hears = signal.getsignal(signal.SIGINT) is signal.default_int_handler  # not where a shell has it ignored
    if hears:
        signal.signal(signal.SIGINT, signal.SIG_DFL)
    from oak_square import cli

    if hears:
        signal.signal(signal.SIGINT, signal.default_int_handler)
    cli.main()


if __name__ == "__main__":
    main()
