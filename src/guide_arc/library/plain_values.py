"""Values are checked before they are stored: text without what can't be seen, numbers that are
numbers, dates that are days."""

from __future__ import annotations

import math
from datetime import date
from typing import Any, Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible
from guide_arc.standards.tempo import parse_tempo

NAME: Final = 120
FILE_NAME: Final = 255
WORDS: Final = 2_000
NOTE: Final = 20_000
_HEAVIEST_KG: Final = 2_000.0


def name_of(value: str, what: str, most: int = NAME) -> str:
    """A name of one line. Raises BadInput for one that is empty or too long."""
    name = " ".join(visible(value).split())
    if not name:
        raise BadInput(f"{what} needs a name")
    if len(name) > most:
        raise BadInput(f"{what} has a name of {len(name)} letters; {most} are the most")
    return name


def file_name_of(value: str) -> str:
    """A file's name, whatever its bytes were; cut if it is too long."""
    return visible(value)[:FILE_NAME] or "unnamed"


def text_of(value: str, what: str, most: int) -> str:
    """Text of several lines. Raises BadInput if it is too long."""
    text = visible(value, lines=True)
    if len(text) > most:
        raise BadInput(f"{what} has {len(text)} letters; {most} are the most")
    return text


def tempo_of(value: str | None) -> str | None:
    """A tempo as it is written. Raises BadInput if it is no tempo."""
    if not value:
        return None
    parse_tempo(value)
    return value.strip()


def load_of(value: float | None) -> float | None:
    """Kilograms. Raises BadInput for what no bar holds."""
    if value is None:
        return None
    if not (math.isfinite(value) and 0 <= value <= _HEAVIEST_KG):
        raise BadInput(f"the load is {value:g} kg; it must lie between 0 and {_HEAVIEST_KG:g}")
    return float(value)


def moment_of(value: str | None) -> str | None:
    """When a set was recorded, as an ISO date that may have a time after it; None for what is no
    date."""
    if not value:
        return None
    text = visible(str(value)).strip()[:40]
    try:
        date.fromisoformat(text[:10])
    except ValueError:
        return None
    return text


def number_of(value: Any, what: str, least: float, most: float) -> float | None:
    """A number of a file; None if there is none. Raises BadInput for another value."""
    if value is None:
        return None
    if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
        raise BadInput(
            f"{what} is {str(value)[:40]}; it must be a number between {least:g} and {most:g}"
        )
    return float(value)
