"""One command: its words, its keys, where and when it can be used, and what it does."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple


def always(_place: Any) -> bool:
    return True


class Command(NamedTuple):
    """`keys` are as Qt writes them; the first one is shown. `help` is its line in the keys page.

    run : given the program and the place that is shown; raises BadInput for what is then said
    place : the place it belongs to, which alone enables it: a key may mean two things in two
        places; None: everywhere
    when : whether it can be used now, given the place that is shown
    """

    id: str
    words: str
    menu: str
    keys: tuple[str, ...]
    help: str
    run: Callable[[Any, Any], None]
    place: str | None = None
    when: Callable[[Any], bool] = always
