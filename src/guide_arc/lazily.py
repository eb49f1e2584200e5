"""Imports that load a module only when something of it is first called.

The window has its first picture before the library, SciPy and the dialogs are loaded. What is
needed later is imported like anything else, so that type checkers, linters and the import contracts
see it:

    with lazily():
        from guide_arc.app.services import set_jobs
        from guide_arc.app.shell.trouble import Trouble

`set_jobs.take_out` and `Trouble` then stand for what they name, and their modules are loaded by the
first call. They can be called, passed on and asked for what they hold, and no more: they are no
classes for `isinstance` and no constants.
"""

from __future__ import annotations

import builtins
import threading
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from importlib import import_module

_ONE_AT_A_TIME = threading.RLock()


class NotLoadedYet:
    """Stands for what a module holds; `path` leads from the module to it."""

    __slots__ = ("_module", "_path")

    def __init__(self, module: str, path: tuple[str, ...]) -> None:
        self._module, self._path = module, path

    def __getattr__(self, name: str) -> NotLoadedYet:
        if name.startswith("__"):
            raise AttributeError(name)
        return NotLoadedYet(self._module, (*self._path, name))

    def __call__(self, *args: object, **named: object) -> object:
        found = load(self)
        if not callable(found):
            raise TypeError(f"{self!r} can't be called")
        return found(*args, **named)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, NotLoadedYet) and repr(self) == repr(other)

    def __hash__(self) -> int:
        return hash(repr(self))

    def __repr__(self) -> str:
        return f"{self._module}:{'.'.join(self._path)}"


class _Names:
    """What `from … import` takes its names from."""

    def __init__(self, module: str) -> None:
        self._module = module

    def __getattr__(self, name: str) -> NotLoadedYet:
        return NotLoadedYet(self._module, (name,))


def load(what: object) -> object:
    """Load what stands for something now, on this thread; anything else is given back as it is.

    Raises ImportError or AttributeError where there is nothing of that name.
    """
    if not isinstance(what, NotLoadedYet):
        return what
    found: object = import_module(what._module)
    for i, name in enumerate(what._path):
        if i == 0 and not hasattr(found, name):
            found = import_module(f"{what._module}.{name}")
        else:
            found = getattr(found, name)
    return found


@contextmanager
def lazily() -> Iterator[None]:
    """Within the block, `from … import …` on this thread gives names that are loaded when called.

    Raises ImportError for a plain `import …`, which would hide what is used of it.
    """
    real, here = builtins.__import__, threading.get_ident()

    def names_only(
        name: str,
        globals: Mapping[str, object] | None = None,
        locals: Mapping[str, object] | None = None,
        fromlist: Sequence[str] | None = (),
        level: int = 0,
    ) -> object:
        if threading.get_ident() != here:
            return real(name, globals, locals, fromlist or (), level)
        if not fromlist or level:
            raise ImportError(f"write “from {name} import …” to import lazily")
        return _Names(name)

    with _ONE_AT_A_TIME:  # two threads that put it in and take it out crosswise would leave one in
        real = builtins.__import__
        builtins.__import__ = names_only  # type: ignore[assignment]
        try:
            yield
        finally:
            builtins.__import__ = real
