"""Where one can go: a place, with what it is to show.

Each place has one type of these (`app/services/destinations.py`), so that a name or a value that
its `enter` does not know is found by the type checker.
"""

from __future__ import annotations

from typing import ClassVar, Protocol


class Destination(Protocol):
    """place : the id of the place that is shown"""

    place: ClassVar[str]
