"""The one error that means: what came in is not usable, and here is why."""

from __future__ import annotations

import difflib
from collections.abc import Iterable

from guide_arc.core.model.plain_text import visible


class BadInput(ValueError):
    """Something given from outside can't be used. Its text is one plain sentence, whatever it
    quotes."""

    def __str__(self) -> str:
        return visible(super().__str__(), lines=True)


def did_you_mean(given: str, known: Iterable[str]) -> str:
    """The nearest known word as a question in brackets, or nothing."""
    near = difflib.get_close_matches(given, list(known), n=1, cutoff=0.6)
    return f" (did you mean {near[0]!r}?)" if near else ""
