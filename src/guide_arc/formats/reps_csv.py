"""The reps of a review as CSV: one row each, with its phases, range and the findings about it."""

from __future__ import annotations

import csv
import io

from guide_arc.core.model.rep import Span
from guide_arc.core.model.review import Review

_HEAD = (
    "rep",
    "side",
    "full",
    "lift_start_s",
    "lift_end_s",
    "top_hold_s",
    "lower_start_s",
    "lower_end_s",
    "bottom_hold_s",
    "measure",
    "from_deg",
    "to_deg",
    "range_deg",
    "range_u_deg",
    "off",
    "near",
)


def reps_text(review: Review) -> str:
    """One row a rep; a hold that did not occur is empty. `off` and `near` name the checks, parted
    by spaces."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_HEAD)
    for rep, size in zip(review.reps, review.range_by_rep, strict=True):
        about = {
            verdict: " ".join(
                dict.fromkeys(f.rule.name for f in review.with_verdict(verdict) if f.is_about(rep))
            )
            for verdict in ("off", "near")
        }
        writer.writerow(
            [
                rep.number,
                rep.side,
                "yes" if rep.full else "no",
                _start(rep.lift),
                _end(rep.lift),
                _hold(rep.top_hold),
                _start(rep.lower),
                _end(rep.lower),
                _hold(rep.bottom_hold),
                rep.measure,
                f"{rep.from_deg:.2f}",
                f"{rep.to_deg:.2f}",
                f"{size.value:.2f}",
                f"{size.u:.2f}",
                about["off"],
                about["near"],
            ]
        )
    return out.getvalue()


def _s(at_s: float) -> str:
    return f"{at_s:.3f}"


def _start(span: Span) -> str:
    """When a phase starts; empty if that was not seen."""
    return _s(span.start_s) if span.start_seen else ""


def _end(span: Span) -> str:
    return _s(span.end_s) if span.end_seen else ""


def _hold(span: Span | None) -> str:
    return "" if span is None or not span.seen else _s(span.length_s)
