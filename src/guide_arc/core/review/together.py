"""Two recordings of one set, from different sides, reviewed as one: each check by the view that shows it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.planning.history import NO_PAST, Past
from guide_arc.core.review.causes import causes_of
from guide_arc.core.review.prescribe import next_time
from guide_arc.core.review.rank import ranked
from guide_arc.core.review.trends import broke_down, off_by_rep


def together(
    main: Review, others: Sequence[Review], load_kg: float | None = None, past: Past = NO_PAST
) -> Review:
    """The review of a set that was recorded from several sides at once.

    main : whose reps and times are kept; the findings of the others are told at the same reps of it
    Raises BadInput where they are not of the same exercise and school.
    """
    for other in others:
        if (other.standard.id, other.standard.school.id) != (
            main.standard.id,
            main.standard.school.id,
        ):
            raise BadInput(
                f"one recording is of {main.standard.name} ({main.standard.school.name}), the other of "
                f"{other.standard.name} ({other.standard.school.name}); they are one set only if both are the same"
            )  # fmt: skip
    findings = list(main.findings)
    for other in others:
        by_key = {f.key: f for f in other.findings}
        findings = [_surer(f, by_key.get(f.key), main, other) for f in findings]
    found = ranked(findings)
    off = off_by_rep(main.reps, found)
    trust = replace(
        main.trust,
        view=" and ".join((main.trust.view, *dict.fromkeys(_side(o) for o in others))),
        cannot=tuple(c for c in main.trust.cannot if all(c in o.trust.cannot for o in others)),
        doubts=(*main.trust.doubts, *(d for o in others for d in _doubts(main, o))),
    )
    return replace(
        main, findings=found, trust=trust, loose=tuple(key for key, names in off.items() if names),
        broke_down=broke_down(main.reps, off), causes=causes_of(main.standard, found, main.settings.felt, past.feel),
        next_time=next_time(main.standard, main.tempo, main.reps, found, load_kg, main.settings.felt, past),
    )  # fmt: skip


def _side(review: Review) -> str:
    """`from the left`"""
    return review.trust.view.removeprefix("Seen ")


def _surer(own: Finding, other: Finding | None, main: Review, seen_in: Review) -> Finding:
    """Of two findings of one check the one that tells more, told at the main recording's times."""
    if other is None or other.verdict == "cannot-tell":
        return own
    if (
        own.verdict != "cannot-tell"
        and own.uncertainty is not None
        and (other.uncertainty is None or own.uncertainty <= other.uncertainty)
    ):
        return own
    pairs = _pairs(main, seen_in)
    return replace(
        other,
        at_s=None if other.at_s is None else _moved(other.at_s, pairs),
        per_rep=tuple(replace(v, at_s=_moved(v.at_s, pairs)) for v in other.per_rep),
        says=f"{other.says} (seen {_side(seen_in)})",
    )


def _doubts(main: Review, other: Review) -> tuple[str, ...]:
    if len(main.reps) == len(other.reps):
        return ()
    return (
        f"{len(main.reps)} reps {_side(main)}, but {len(other.reps)} {_side(other)}: "
        "are both recordings of the same set?",
    )


def _pairs(main: Review, other: Review) -> tuple[np.ndarray, np.ndarray]:
    """Moments of the other recording and of the main one that are the same."""
    mine = {r.key: r for r in main.reps}
    same = [(r, mine[r.key]) for r in other.reps if r.key in mine]
    theirs = [t for r, _ in same for t in _moments(r)]
    own = [t for _, r in same for t in _moments(r)]
    order = np.argsort(theirs, kind="stable")
    return np.array(theirs)[order], np.array(own)[order]


def _moments(rep: Rep) -> tuple[float, float, float, float]:
    return rep.lift.start_s, rep.lift.end_s, rep.lower.start_s, rep.lower.end_s


def _moved(at_s: float, pairs: tuple[np.ndarray, np.ndarray]) -> float:
    theirs, own = pairs
    if not len(theirs):
        return at_s
    if at_s <= theirs[0] or at_s >= theirs[-1]:
        end = 0 if at_s <= theirs[0] else -1
        return float(own[end] + at_s - theirs[end])
    return float(np.interp(at_s, theirs, own))
