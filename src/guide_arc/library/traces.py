"""What is kept of each review for the years, as compact text."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any

from guide_arc.core.planning.kept_set import CheckTrace, RepTrace, SetTrace

# The form of the text. Those before it take part until they are computed again: they call a rep
# unseen though one arm showed it.
_FORM = 2
_READABLE = frozenset((1, _FORM))


def trace_text(trace: SetTrace) -> str:
    """A trace as text: lists in the order of the fields, so that thousands stay small."""
    return json.dumps(
        [
            _FORM,
            trace.view,
            trace.unit,
            [[r.side, r.full, r.form, *r.off] for r in trace.reps],
            [
                [
                    c.check,
                    c.side,
                    c.verdict,
                    c.harm,
                    c.title,
                    c.says,
                    c.cue,
                    c.unit,
                    c.limit,
                    _short(c.value),
                    _short(c.u),
                    c.why,
                    c.allowed,
                ]
                for c in trace.checks
            ],
            _pair(trace.range_),
            _pair(trace.lower_s),
            _pair(trace.hold_s),
            _short(trace.tension_s),
            _short(trace.start_s),
            _short(trace.length_s),
        ],
        ensure_ascii=False,
        separators=(",", ":"),
    )


def is_current(text: str) -> bool:
    """Whether a trace is as this program would compute it."""
    return trace_from(text) is not None and text.startswith(f"[{_FORM},")


@lru_cache(maxsize=8192)
def trace_from(text: str) -> SetTrace | None:
    """A trace from its text; None if there is none or an older program wrote it."""
    if not text:
        return None
    try:
        form, *fields = json.loads(text)
        return _trace(*fields) if form in _READABLE else None
    except (ValueError, TypeError, RecursionError):
        return None  # damaged: computed again


def _trace(
    view: Any,
    unit: Any,
    reps: Any,
    checks: Any,
    range_: Any,
    lower: Any,
    hold: Any,
    tension: Any,
    start: Any,
    length: Any,
) -> SetTrace:
    return SetTrace(
        view=view,
        unit=unit,
        reps=tuple(RepTrace(side, full, how, tuple(off)) for side, full, how, *off in reps),
        checks=tuple(CheckTrace(*c) for c in checks),
        range_=_tuple(range_),
        lower_s=_tuple(lower),
        hold_s=_tuple(hold),
        tension_s=tension,
        start_s=start,
        length_s=length,
    )


def _short(value: float | None) -> float | None:
    return None if value is None else round(value, 3)


def _pair(pair: tuple[float, float] | None) -> list[float] | None:
    return None if pair is None else [round(v, 3) for v in pair]


def _tuple(pair: list[float] | None) -> tuple[float, float] | None:
    return None if pair is None else (pair[0], pair[1])
