"""Oak Square: a bench for batches of imported 3D models.

>>> import oak_square
>>> document = oak_square.survey("incoming")
>>> manifest = oak_square.prep("autumn.prepsheet.yaml", ["incoming"], "delivery")
>>> oak_square.prove("delivery")["holds"]

Nothing heavy is imported before one of these is first used.
"""

from typing import TYPE_CHECKING, Any

from oak_square.version import __version__

if TYPE_CHECKING:
    from oak_square.library import BadInput, load_sheet, prep, prove, survey

__all__ = ["BadInput", "__version__", "load_sheet", "prep", "prove", "survey"]


def __getattr__(name: str) -> Any:
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    from oak_square import library  # it loads all that the work needs

    return getattr(library, name)


def __dir__() -> list[str]:
    return __all__
