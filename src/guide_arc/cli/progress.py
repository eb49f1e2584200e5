"""Progress on standard error: a bar where a person is watching, else a line now and then."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Final

from guide_arc.cli.terminal import tell as tell_line
from guide_arc.core.model.plain_text import visible
from guide_arc.lazily import lazily

with lazily():
    from rich.console import Console
    from rich.progress import Progress

# A log is no place for a bar: work that ends sooner than this says nothing there, and after that a
# line every so often.
_QUIET_S: Final = 10.0
_EVERY_S: Final = 10.0


@contextmanager
def shown_progress(words: str) -> Iterator[Callable[[float], None]]:
    """A function that takes a share from 0 to 1."""
    if not sys.stderr.isatty():
        yield _lines(words)
        return
    with Progress(console=Console(stderr=True), transient=True) as bar:
        task = bar.add_task(visible(words), total=1.0)
        yield lambda share: bar.update(task, completed=share)


def _lines(words: str) -> Callable[[float], None]:
    due = time.monotonic() + _QUIET_S

    def tell(share: float) -> None:
        nonlocal due
        if time.monotonic() >= due:
            due = time.monotonic() + _EVERY_S
            tell_line(f"{words}: {100 * share:.0f} %")

    return tell
