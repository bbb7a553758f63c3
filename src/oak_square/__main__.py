"""`python -m oak_square` is the command `oak-square`."""

from oak_square.cli import main

if __name__ == "__main__":
    main()
