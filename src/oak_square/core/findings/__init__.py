"""What can be untrue of an asset: one file for those that are measured together. A new file is found by itself."""

from importlib import import_module
from pkgutil import iter_modules

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")
