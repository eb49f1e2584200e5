"""Progress on standard error, where a person is watching; silent otherwise."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager


@contextmanager
def shown_progress(words: str) -> Iterator[Callable[[float], None]]:
    """A function that takes a share from 0 to 1."""
    if not sys.stderr.isatty():
        yield lambda _share: None
        return
    from rich.console import Console  # noqa: PLC0415 - only where a person is watching
    from rich.progress import Progress  # noqa: PLC0415

    with Progress(console=Console(stderr=True), transient=True) as bar:
        task = bar.add_task(words, total=1.0)
        yield lambda share: bar.update(task, completed=share)
