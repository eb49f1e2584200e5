"""JSON in the library's rows. A damaged row never stops what reads many: it counts as not there
until it is mended."""

from __future__ import annotations

import json
from typing import Any


def stored(text: str | None, kind: type[dict[str, Any]] | type[list[Any]] = dict) -> Any:
    """What a row holds, as a dictionary or a list; an empty one for a damaged or an empty text.

    Rows are read one by one with their own checks where a damaged one must be reported, see
    `checking.py`.
    """
    try:
        found = json.loads(text or "")
    except (ValueError, RecursionError):
        return kind()
    return found if isinstance(found, kind) else kind()
