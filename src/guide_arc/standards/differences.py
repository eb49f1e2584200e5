"""Where two standards' files differ, key by key: against the shipped one, and school against
school."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from guide_arc.standards.loader import usual_checks


@dataclass(frozen=True)
class Difference:
    """key : dotted, lists by the name of their entry; None if a side has no such key"""

    key: str
    before: Any
    after: Any


def differences(before: dict[str, Any], after: dict[str, Any]) -> list[Difference]:
    """Every key with another value, in the order of the files."""
    a, b = dict(_flat(before)), dict(_flat(after))
    return [
        Difference(k, a.get(k), b.get(k)) for k in dict.fromkeys((*a, *b)) if a.get(k) != b.get(k)
    ]


def school_differences(raw: dict[str, Any]) -> dict[str, list[Difference]]:
    """What each school but the strict one changes, by its id."""
    flat = dict(_flat(raw))
    out: dict[str, list[Difference]] = {}
    for school in raw["school"][1:]:
        rows = [Difference(k, flat.get(k), v) for k, v in school.get("set", {}).items()]
        rows += [
            Difference(f"check.{name}", "asked", "not asked") for name in school.get("drop", [])
        ]
        for check in school.get("add", []):
            limit = _limit({**usual_checks().get(check["name"], {}), **check})
            rows.append(Difference(f"check.{check['name']}", "not asked", limit))
        out[school["id"]] = rows
    return out


def _limit(check: dict[str, Any]) -> str:
    for key, unit in (("limit_deg", "°"), ("limit_pct", " %")):
        if key in check:
            return f"limit {check[key]:g}{unit}"
    return "asked"


def _flat(value: Any, key: str = "") -> list[tuple[str, Any]]:
    if isinstance(value, dict):
        return [row for k, v in value.items() for row in _flat(v, f"{key}.{k}" if key else str(k))]
    if isinstance(value, list) and value and all(isinstance(v, dict) for v in value):
        rows: list[tuple[str, Any]] = []
        for i, entry in enumerate(value):
            name = next((str(entry[n]) for n in ("name", "at", "id") if n in entry), str(i))
            rows += _flat(
                {k: v for k, v in entry.items() if k not in ("name", "at", "id")}, f"{key}.{name}"
            )
        return rows
    return [(key, value)]
