"""Numbers as people type them: decimal comma or decimal point, in every field alike.

One sign between figures is the decimal sign, whichever it is: nobody groups thousands in kilograms
or degrees. If a number contains both signs, the last one is the decimal sign and the other one
groups digits. A sign that occurs several times in one number groups, too. Files and stored values
always have the point."""

from __future__ import annotations

import re
from typing import Final

from guide_arc.core.model.errors import BadInput

_SIGNS: Final = re.compile(r"[+-]?[\d.,]+")
_IGNORED: Final = str.maketrans("", "", "\u00a0\u202f\u2009 '\u2019")
_MINUS: Final = str.maketrans({"\u2212": "-"})
# A comma or a point with figures on both sides.
_BETWEEN: Final = re.compile(r"\d+(?:[.,]\d+)+")


def number_from(text: str, unit: str = "") -> float:
    """The number in a text, with its unit behind it or not. Raises BadInput for any other text."""
    typed = text.strip()
    if unit and typed.casefold().endswith(unit.strip().casefold()):
        typed = typed[: len(typed) - len(unit.strip())].strip()
    plain = typed.translate(_MINUS).translate(_IGNORED)
    if not _SIGNS.fullmatch(plain):
        raise BadInput(f"“{text.strip()}” is not a number; write one such as 27.5 or 27,5")
    try:
        return float(_with_point(plain))
    except ValueError:
        raise BadInput(
            f"“{text.strip()}” is not a number; write one such as 27.5 or 27,5"
        ) from None


def with_points(text: str) -> str:
    """A text in which every number has a decimal point, for a parser that reads more than one
    number.

    A comma before a space still parts numbers: `2,5, 10` are two and a half, and ten. Several
    commas without spaces part numbers as well: `10,20,30` are three.
    """
    return _BETWEEN.sub(lambda found: _part(found.group()), text.translate(_MINUS))


def _part(number: str) -> str:
    if number.count(",") > 1 and "." not in number:
        return number.replace(",", ", ")
    return _with_point(number)


def _with_point(number: str) -> str:
    comma, point = number.rfind(","), number.rfind(".")
    if comma >= 0 and point >= 0:
        group, decimal = (",", ".") if point > comma else (".", ",")
        return number.replace(group, "").replace(decimal, ".")
    sign = "," if comma >= 0 else "."
    if number.count(sign) > 1:
        return number.replace(sign, "")
    return number.replace(",", ".")


def understood(text: str) -> str:
    """How a text's numbers are understood where another reading is possible, such as `1.25` for
    `1,250`; else empty."""
    out = []
    for found in _BETWEEN.findall(text):
        whole, _sign, after = re.split(r"([.,])", found, maxsplit=1)
        several = len(re.findall(r"[.,]", found)) > 1
        if several or (len(after) == 3 and len(whole) <= 3):
            out.append(", ".join(f"{float(p):g}" for p in _part(found).split(", ")))
    return "; ".join(out)
