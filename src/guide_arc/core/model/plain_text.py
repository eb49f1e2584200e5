"""Text as it can be shown, printed and kept anywhere, whatever a file held."""

from __future__ import annotations

import unicodedata
from typing import Final

_MISSING: Final = "\N{REPLACEMENT CHARACTER}"
# Invisible characters that change the direction of the text around them.
_DIRECTION: Final = frozenset(
    map(chr, (0x61C, 0x200E, 0x200F, *range(0x202A, 0x202F), *range(0x2066, 0x206A)))
)


def visible(text: str, *, lines: bool = False) -> str:
    """Without control characters and marks of direction; half a character is shown as one that is
    missing.

    lines : line breaks and tabs may stay
    """
    kept = "\n\t" if lines else ""
    usual = text.replace("\n", "").replace("\t", "") if lines else text
    if usual.isascii() and usual.isprintable():
        return text
    out = []
    for ch in text:
        if ch in kept:
            out.append(ch)
        elif 0xD800 <= ord(ch) <= 0xDFFF:
            out.append(_MISSING)
        elif ch in _DIRECTION:
            continue
        else:
            out.append(" " if unicodedata.category(ch) in ("Cc", "Zl", "Zp") else ch)
    return "".join(out)
