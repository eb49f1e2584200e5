"""One file more in a package, as somebody would add it, and everything that follows from it."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from importlib import import_module
from pathlib import Path
from typing import Any


@contextmanager
def one_file_more(
    folder: Path, package: str, name: str, text: str, kept: tuple[Callable[..., Any], ...]
) -> Iterator[None]:
    """The package with one module more. `kept` : the cached functions that looked before it was
    there."""
    (folder / f"{name}.py").write_text(text)
    path = import_module(package).__path__
    path.append(str(folder))
    _forget(kept)
    try:
        yield
    finally:
        path.remove(str(folder))
        sys.modules.pop(f"{package}.{name}", None)
        _forget(kept)


def _forget(kept: tuple[Callable[..., Any], ...]) -> None:
    for looked in kept:
        looked.cache_clear()  # type: ignore[attr-defined]
