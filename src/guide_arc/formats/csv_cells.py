"""Cells of a CSV file that a spreadsheet opens: text never becomes a formula."""

from __future__ import annotations

from typing import Final

# What a spreadsheet takes for the beginning of a formula.
_FORMULA: Final = ("=", "+", "-", "@", "\t", "\r", "\n")


def text_cell(text: str) -> str:
    """Text for a cell. A beginning that a spreadsheet would compute gets an apostrophe before
    it."""
    return f"'{text}" if text.startswith(_FORMULA) else text
