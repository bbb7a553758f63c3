"""One file, or folder, a format. A new one here is found and entered by itself.

A folder says in its `__init__` what the format is called, and has the rest loaded when it is asked for.
"""

from importlib import import_module
from pkgutil import iter_modules

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")
