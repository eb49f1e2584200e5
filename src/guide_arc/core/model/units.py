"""Numbers with their unit, as they are said."""

from __future__ import annotations

from typing import Final

UNIT: Final = {"deg": "°", "pct": " %", "s": " s"}


def amount(value: float, unit: str) -> str:
    """`17°`, `12 %`, `1.4 s`."""
    return f"{value:.1f}{UNIT[unit]}" if unit == "s" else f"{value:.0f}{UNIT[unit]}"


def spread(value: float, unit: str) -> str:
    """An uncertainty in the same form, never rounded down to nothing."""
    return amount(max(value, 0.1 if unit == "s" else 1.0), unit)
