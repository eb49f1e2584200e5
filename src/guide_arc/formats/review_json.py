"""A review as the JSON that other programs read (`set-review/1`)."""

from __future__ import annotations

import json
import math
from typing import Any

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.review import Review


def review_document(review: Review) -> dict[str, Any]:
    """The review as plain values, numbers rounded to what they can carry."""
    return {
        "format": "set-review/1",
        "standard": review.standard.id,
        "school": review.standard.school.id,
        "frames": review.frames,
        "duration_s": round(review.duration_s, 3),
        "reps": [_rep(rep) for rep in review.reps],
        "findings": [_finding(f) for f in review.findings],
    }


def review_json(review: Review) -> str:
    return json.dumps(review_document(review), indent=1, ensure_ascii=False, allow_nan=False)


def _span(span: Span | None) -> list[float] | None:
    return None if span is None else [round(span.start_s, 3), round(span.end_s, 3)]


def _rep(rep: Rep) -> dict[str, Any]:
    return {
        "number": rep.number,
        "side": rep.side,
        "full": rep.full,
        "lift": _span(rep.lift),
        "top_hold": _span(rep.top_hold),
        "lower": _span(rep.lower),
        "bottom_hold": _span(rep.bottom_hold),
        "range": {
            "measure": rep.measure,
            "from_deg": round(rep.from_deg, 2),
            "to_deg": round(rep.to_deg, 2),
        },
    }


def _finding(f: Finding) -> dict[str, Any]:
    out: dict[str, Any] = {
        "check": f.rule.name,
        "verdict": f.verdict,
        "side": f.side,
        "reps": list(f.reps),
        "value": _number(f.value),
        "uncertainty": _number(f.uncertainty),
        "limit": _number(f.limit),
        "unit": f.unit,
        "at_s": _number(f.at_s),
        "cue": f.rule.cue,
    }
    if f.why:
        out["why"] = f.why
    return out


def _number(value: float | None) -> float | None:
    return None if value is None or not math.isfinite(value) else round(value, 3)
