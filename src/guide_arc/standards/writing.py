"""A standard's file as text, its name as an id, and the JSON Schema that editors use."""

from __future__ import annotations

import json
import re
import unicodedata
from typing import Any

import tomli_w

from guide_arc.core.checks.registry import specs
from guide_arc.standards.schema import StandardForm


def as_toml(raw: dict[str, Any]) -> str:
    """The text of a standard's file. Comments of an earlier text are not kept."""
    return tomli_w.dumps(_without_none(raw))


def _without_none(value: Any) -> Any:
    if isinstance(value, dict):
        return {k: _without_none(v) for k, v in value.items() if v is not None}
    if isinstance(value, (list, tuple)):
        return [_without_none(v) for v in value]
    return value


def id_of(name: str, taken: object = ()) -> str:
    """An id for a name, made unlike those that are taken (anything with `in`)."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    base = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:52] or "my-standard"
    id, n = base, 2
    while id in taken:  # type: ignore[operator]
        id, n = f"{base}-{n}", n + 1
    return id


def json_schema() -> str:
    """The schema of a standard's file as JSON Schema, for editors that check while one types.

    A check's words and limit may be left out in a file; the usual ones then apply.
    """
    schema = StandardForm.model_json_schema()
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = "Guide Arc exercise standard"
    check = schema["$defs"]["CheckForm"]
    check["required"] = ["name"]
    check["properties"]["name"]["enum"] = list(specs())
    return json.dumps(schema, indent=1) + "\n"
