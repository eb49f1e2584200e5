"""A review as the JSON that other programs read (`set-review/1`)."""

from __future__ import annotations

import json
import math
from typing import Any

from guide_arc.core.model.figures import RepFigures, SetFigures, Trend
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.review import Review
from guide_arc.core.review.praise import praise_of


def review_document(review: Review, figures: SetFigures | None = None) -> dict[str, Any]:
    """The review as plain values, numbers rounded to what they can carry.

    figures : every rep's figures and their trends, where they were asked for
    """
    out: dict[str, Any] = {
        "format": "set-review/1",
        "standard": review.standard.id,
        "school": review.standard.school.id,
        "frames": review.frames,
        "duration_s": round(review.duration_s, 3),
        "reps": [_rep(rep) for rep in review.reps],
        "findings": [_finding(f) for f in review.findings],
        "doubts": list(review.trust.doubts),
        "loose_reps": [{"side": side, "number": number} for side, number in review.loose],
        "broke_down": (
            None
            if review.broke_down is None
            else {
                "rep": review.broke_down.rep,
                "side": review.broke_down.side,
                "checks": list(review.broke_down.checks),
            }
        ),
        "praise": [{"words": p.words, "checks": list(p.checks)} for p in praise_of(review)],
        "causes": [{"kind": c.kind, "words": c.words} for c in review.causes],
        "next": _next(review.next_time),
    }
    if figures is not None:
        out["figures"] = [_figures(f) for f in figures.reps]
        out["trends"] = [_trend(t) for t in figures.trends]
    return out


def _next(plan: Prescription) -> dict[str, Any]:
    return {
        "change": plan.change,
        "ask_first": plan.ask_first,
        "load_kg": plan.load_kg,
        "reps": list(plan.reps),
        "sets": plan.sets,
        "rest_s": plan.rest_s,
        "reasons": list(plan.reasons),
        "then": plan.then,
        "look_for": list(plan.look_for),
    }


def review_json(review: Review, figures: SetFigures | None = None) -> str:
    document = review_document(review, figures)
    return json.dumps(document, indent=1, ensure_ascii=False, allow_nan=False)


def _quantity(q: Quantity | None) -> list[float | None] | None:
    """A value with its standard uncertainty."""
    return None if q is None else [_number(q.value), _number(q.u)]


def _figures(f: RepFigures) -> dict[str, Any]:
    return {
        "number": f.rep.number,
        "side": f.rep.side,
        "start_deg": _quantity(f.start_deg),
        "turn_deg": _quantity(f.turn_deg),
        "range_deg": _quantity(f.range_deg),
        "under_load_s": _number(f.under_load_s),
        "lift_peak_deg_s": _number(f.lift_peak_deg_s),
        "lift_mean_deg_s": _number(f.lift_mean_deg_s),
        "lower_peak_deg_s": _number(f.lower_peak_deg_s),
        "lower_mean_deg_s": _number(f.lower_mean_deg_s),
        "burst_pct": _quantity(f.burst_pct),
        "smoothness": _number(f.smoothness),
        "stops": f.stops,
        "torso_early_deg": _quantity(f.torso_early_deg),
        "hand_at_turn": f.hand_at or None,
        "stays": [
            {
                "what": s.name,
                "side": s.side,
                "largest": _quantity(s.largest),
                "mean": _number(s.mean),
                "unit": s.unit,
            }
            for s in f.stays
        ],
        "paths": [
            {
                "part": "hand" if p.part == "wrist" else p.part,
                "side": p.side,
                "largest_pct": _quantity(p.largest_pct),
                "at_share": _number(p.at_share),
                "way": p.way,
                "inside_pct": _number(p.inside_pct),
                "signed_pct": [_number(v) for v in p.signed_pct],
            }
            for p in f.paths
        ],
        "arms_apart_deg": _quantity(f.arms_apart_deg),
        "arms_apart_s": _quantity(f.arms_apart_s),
    }


def _trend(t: Trend) -> dict[str, Any]:
    return {
        "what": t.name,
        "side": t.side,
        "unit": t.unit,
        "per_rep": _quantity(t.per_rep),
        "first": _number(t.first),
        "last": _number(t.last),
        "sure": t.sure,
        "says": t.says,
    }


def _span(span: Span | None) -> list[float | None] | None:
    """The two ends of a phase; None for the phase that did not occur, and for an end that was not
    seen."""
    if span is None:
        return None
    return [
        round(span.start_s, 3) if span.start_seen else None,
        round(span.end_s, 3) if span.end_seen else None,
    ]


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
        "p": _number(f.p),
        "hint": f.hint,
        "cue": f.cue,
    }
    if f.why:
        out["why"] = f.why
    if f.allowed:
        out["allowed"] = True
    if f.eye is not None:
        out["eye"] = f.eye
    return out


def _number(value: float | None) -> float | None:
    return None if value is None or not math.isfinite(value) else round(value, 3)
