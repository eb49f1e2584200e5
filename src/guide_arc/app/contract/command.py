"""Commands: their words, their keys, where and when they can be used, and what they do."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, NamedTuple, TypeVar

P_contra = TypeVar("P_contra", contravariant=True)


def always(_place: object) -> bool:
    return True


class Command(NamedTuple, Generic[P_contra]):
    """One command of a place, which alone enables it: a key may mean two things in two places.

    Those that an entry lists as `everywhere` are given what the place needs instead of the place.

    keys : as Qt writes them; the first one is shown
    help : its line in the keys page
    run : given the place; raises BadInput for what is then said
    when : whether it can be used now
    """

    id: str
    words: str
    menu: str
    keys: tuple[str, ...]
    help: str
    run: Callable[[P_contra], object]
    when: Callable[[P_contra], bool] = always


class Action(NamedTuple):
    """A command as the window holds it, whatever place it belongs to.

    place : the place it belongs to; None: everywhere
    """

    id: str
    words: str
    menu: str
    keys: tuple[str, ...]
    help: str
    run: Callable[[], object]
    usable: Callable[[], bool]
    place: str | None = None
