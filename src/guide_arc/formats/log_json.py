"""The sets of a day that were done and not filmed, as JSON."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any, Final

from pydantic import TypeAdapter, ValidationError
from pydantic_core import to_json

from guide_arc.core.planning.training_log import LoggedSet

_SET: Final = TypeAdapter(LoggedSet)


def log_document(sets: Sequence[LoggedSet]) -> Any:
    """Sets as plain values."""
    return {"sets": json.loads(to_json(list(sets)))}


def log_from(document: Any) -> tuple[LoggedSet, ...]:
    """Sets from plain values; those that are none are passed over, so that one damaged set hides no
    other."""
    rows = document.get("sets", []) if isinstance(document, dict) else []
    out = []
    for row in rows if isinstance(rows, list) else []:
        try:
            out.append(_SET.validate_python(row))
        except ValidationError:
            continue
    return tuple(out)
