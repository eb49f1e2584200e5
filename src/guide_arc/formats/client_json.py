"""What is known of a client, as JSON."""

from __future__ import annotations

from dataclasses import fields
from typing import Any, Final

from pydantic import TypeAdapter, ValidationError
from pydantic_core import to_json

from guide_arc.core.model.client import Client

_CLIENT: Final = TypeAdapter(Client)


def client_text(client: Client, *, without: tuple[str, ...] = (), indent: int | None = None) -> str:
    """A client's profile; `without` names what is elsewhere."""
    own = {f.name: getattr(client, f.name) for f in fields(client) if f.name not in without}
    own["rack_kg"] = dict(client.rack_kg)
    return to_json(own, indent=indent).decode()


def client_of(found: dict[str, Any]) -> Client | None:
    """A client from a profile; None if it can't be read."""
    try:
        return _CLIENT.validate_python(found)
    except ValidationError:
        return None
