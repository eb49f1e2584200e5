"""A client's plan as JSON."""

from __future__ import annotations

import json
from typing import Any, Final

from pydantic import TypeAdapter, ValidationError
from pydantic_core import to_json

from guide_arc.core.planning.plan import Override, Plan

_PLAN: Final = TypeAdapter(Plan)
_OVERRIDE: Final = TypeAdapter(Override)


def plan_document(plan: Plan) -> Any:
    """A plan as plain values."""
    return json.loads(to_json(plan))


def plan_from(document: Any) -> Plan | None:
    """A plan from plain values; None if they are none."""
    try:
        return _PLAN.validate_python(document)
    except ValidationError:
        return None


def override_document(override: Override) -> Any:
    return json.loads(to_json(override))


def override_from(document: Any) -> Override | None:
    try:
        return _OVERRIDE.validate_python(document)
    except ValidationError:
        return None
