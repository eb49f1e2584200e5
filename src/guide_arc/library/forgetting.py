"""What is remembered next to the sets, without the clients that were erased."""

from __future__ import annotations

import json
from collections.abc import Sequence

from guide_arc.library.attribution import is_about as names_client
from guide_arc.library.attribution import names_in


def without_clients(value: str, clients: Sequence[str]) -> str:
    """A remembered value without what it says of some clients: entries about them, and a folder
    named after them."""
    try:
        said = json.loads(value)
    except ValueError:
        is_path = "/" in value and "\n" not in value
        return "" if is_path and names_in(value, clients) else value
    if not isinstance(said, list):
        return value
    left = [one for one in said if not (isinstance(one, dict) and one.get("client") in clients)]
    return value if left == said else json.dumps(left)


def is_about(document: str, clients: Sequence[str]) -> bool:
    """Whether what is quarantined is named after one of these clients, as files and sets of theirs
    are."""
    try:
        name = str(json.loads(document).get("name", ""))
    except (ValueError, AttributeError):
        return False
    return names_client(name, clients)
