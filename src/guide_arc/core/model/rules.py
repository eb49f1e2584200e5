"""Numbers that decide: frozen groups in which each has its unit, and why it is what it is.

`bench/constants.py` moves each by a quarter up and down, and docs/constants.md says what that
changes.
"""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from typing import Any, Final

# Where a number is not ours to choose.
CONTRACT: Final = "formats.md"


def rule(value: Any, unit: str, why: str) -> Any:
    """A field of a group: its value, its unit (empty for a bare number), and its reason or
    source."""
    return field(default=value, metadata={"unit": unit, "why": why})


@dataclass(frozen=True)
class ToldNumber:
    """One number, as the page of constants shows it."""

    name: str
    value: float | tuple[float, ...]
    unit: str
    why: str


def told(group: Any) -> list[ToldNumber]:
    """Every number of a group, in the order in which it is written."""
    return [
        ToldNumber(f.name, getattr(group, f.name), f.metadata["unit"], f.metadata["why"])
        for f in fields(group)
    ]
