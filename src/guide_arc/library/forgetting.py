"""What is remembered beside the sets, without the clients that were erased."""

from __future__ import annotations

import json
from collections.abc import Sequence


def without_clients(value: str, clients: Sequence[str]) -> str:
    """A remembered value without what it says of some clients."""
    try:
        said = json.loads(value)
    except ValueError:
        return value
    if not isinstance(said, list):
        return value
    left = [one for one in said if not (isinstance(one, dict) and one.get("client") in clients)]
    return value if left == said else json.dumps(left)
