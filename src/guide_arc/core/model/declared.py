"""What the modules of a package declare, one each: adding a module is all that it takes."""

from __future__ import annotations

from collections.abc import Iterator
from importlib import import_module
from pkgutil import iter_modules
from typing import Any


def declared(package: str, name: str) -> Iterator[Any]:
    """Each module's value of a name, in the order of the modules' names; modules without one are
    passed over."""
    for module in sorted(iter_modules(import_module(package).__path__), key=lambda m: m.name):
        value = getattr(import_module(f"{package}.{module.name}"), name, None)
        if value is not None:
            yield value
