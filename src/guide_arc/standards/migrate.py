"""Files of an earlier form, brought up to today's before they are read.

Form 1 had no number, no fibre line and no elbow path. A file is never rewritten by reading it.
"""

from __future__ import annotations

import copy
from collections.abc import Callable
from typing import Any, Final

from guide_arc.standards.errors import BadStandard
from guide_arc.standards.schema import SCHEMA_VERSION

# Form 1 named only regions that ship with it.
_LINE_OF_REGION: Final = {
    "chest-upper": "upper-chest",
    "front-shoulder": "front-shoulder",
    "side-shoulder": "side-shoulder",
    "rear-shoulder": "rear-shoulder",
    "back": "lats",
    "elbow-flexors": "elbow-bend",
    "triceps": "elbow-straighten",
}


def _from_1(raw: dict[str, Any]) -> None:
    region = str(raw.get("region"))
    target = raw.get("target")
    if isinstance(target, dict):
        target.setdefault("line", _LINE_OF_REGION.get(region, "lats"))
    still = raw.get("drive") == "elbow_flexion" and region in ("elbow-flexors", "triceps")
    raw.setdefault("elbow_path", "still" if still else "leads")


_STEPS: Final[dict[int, Callable[[dict[str, Any]], None]]] = {1: _from_1}


def brought_up(raw: dict[str, Any], name: str) -> dict[str, Any]:
    """The raw file in today's form; unchanged if it is current.

    Raises BadStandard for a form that this program does not know.
    """
    form = raw.get("schema_version", 1)
    if not isinstance(form, int) or not 1 <= form <= SCHEMA_VERSION:
        raise BadStandard(
            f"{name}: schema_version: it is {form!r}; this program reads 1 to {SCHEMA_VERSION}, "
            "so the file was written by a newer one or the number is wrong."
        )
    if form == SCHEMA_VERSION:
        return raw
    out = copy.deepcopy(raw)
    for step in range(form, SCHEMA_VERSION):
        _STEPS[step](out)
    out["schema_version"] = SCHEMA_VERSION
    return out
