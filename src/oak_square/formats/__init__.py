"""One file, or folder, a format. A new one here is found and registered by itself."""

from importlib import import_module
from pkgutil import iter_modules

from oak_square.formats.crossing import cross, losses, losses_said, target_of
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.model_file import CARRIED, FORMATS, Chunk, Companion, Format, Received, Written, format_of, made

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")

__all__ = [
    "CARRIED",
    "FORMATS",
    "LIMITS",
    "Chunk",
    "Companion",
    "Format",
    "Limits",
    "Received",
    "Written",
    "cross",
    "format_of",
    "losses",
    "losses_said",
    "made",
    "target_of",
]
