"""What is taken in hand on the Bench, one file an instrument. A new file here is found and registered by itself."""

from importlib import import_module
from pkgutil import iter_modules

from oak_square.app.instruments.instrument import INSTRUMENTS, Instrument, Scene, held_in_turn, registered

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")

__all__ = ["INSTRUMENTS", "Instrument", "Scene", "held_in_turn", "registered"]
