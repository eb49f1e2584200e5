"""Simulated sets for tests."""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any, TypeVar

import numpy as np
import pytest
from numpy.typing import NDArray

from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set, review_with_body
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Performance, Script, perform
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.standards.loader import standard

# 10 mm root mean square in space is 5.8 mm on each axis.
TEN_MM = 0.0058
# Ten millimetres of noise are more than a tracker has in space: these stand for all standards where
# a test would take too long over all of them, which prove themselves in test_self_proof.py.
FIRST_NINE = (
    "standing-barbell-curl",
    "lateral-raise-dumbbell",
    "rope-pushdown",
    "seated-row-narrow-low",
    "overhead-press-dumbbell",
    "cable-cross-raise-low",
    "front-raise-midline",
    "one-arm-dumbbell-row",
    "cross-cable-rear-fly",
)


def filmed(
    id: str,
    school: str | None = None,
    *,
    view: str = "none",
    rate: float = 30.0,
    noise: float = 0.0,
    drift: float = 0.0,
    dropout: float = 0.0,
    seed: int = 7,
    **script: Any,
) -> Performance:
    """A performance of a standard before the simulated camera."""
    camera = Camera(view, rate, noise, drift, dropout)  # type: ignore[arg-type]
    return perform(standard(id, school), Script(**script), camera, seed)


class Truth(Mapping[str, Any]):
    """A performance's truth, worked out once something of it is asked for."""

    def __init__(self, done: Performance) -> None:
        self._done = done

    def __getitem__(self, key: str) -> Any:
        return self._done.truth[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._done.truth)

    def __len__(self) -> int:
        return len(self._done.truth)


def reviewed(id: str, school: str | None = None, **film: Any) -> tuple[Review, Truth]:
    """The review of a performance against its own standard, and its truth."""
    done = filmed(id, school, **film)
    tempo = film.get("tempo")
    return review_set(done.track, standard(id, school), tempo), Truth(done)


def measured_set(id: str, school: str | None = None, **film: Any) -> ShownSet:
    done = filmed(id, school, **{"noise": 0.003, **film})
    return ShownSet(*review_with_body(done.track, standard(id, school), also=ALL))


def verdicts(review: Review, check: str) -> list[str]:
    return [f.verdict for f in review.findings if f.rule.name == check]


def off_checks(review: Review) -> set[str]:
    return {f.rule.name for f in review.with_verdict("off")}


def with_positions(track: LandmarkTrack, position: NDArray[np.float64]) -> LandmarkTrack:
    return replace(track, position=position)


def counts(reps: Any) -> list[tuple[str, bool]]:
    """(side, full) of each rep, from a review's reps or a truth's."""
    return [(r["side"], r["full"]) if isinstance(r, dict) else (r.side, r.full) for r in reps]


Case = TypeVar("Case")


def frames_missed(review: Review, truth: Truth) -> list[float]:
    """How far off every phase boundary is, in frames of 30 a second."""
    return [
        abs(edge - exact) * 30.0
        for got, true in zip(review.reps, truth["reps"], strict=True)
        for span, ends in ((got.lift, true["lift"]), (got.lower, true["lower"]))
        for edge, exact in ((span.start_s, ends[0]), (span.end_s, ends[1]))
    ]


# Where a change lands (`.ci/run`) everything is tried; a developer's run takes under five minutes.
EVERY_CASE = bool(os.environ.get("GUIDE_ARC_EVERY_CASE"))
slow = pytest.mark.skipif(not EVERY_CASE, reason="tried where a change lands: .ci/run")


def some_of(cases: list[Case]) -> list[Case]:
    """Every twentieth of many like cases; all of them where a change lands."""
    return cases if EVERY_CASE else cases[::20]


def few_of(cases: Sequence[Case]) -> Sequence[Case]:
    """Every fourth of like cases; all of them where a change lands."""
    return cases if EVERY_CASE else cases[::4]


def times(count: int) -> int:
    """How many random cases are tried: a tenth, all of them where a change lands."""
    return count if EVERY_CASE else max(count // 10, 1)


def every_school() -> list[tuple[str, str]]:
    from guide_arc.standards.loader import shipped

    return [(id, s.id) for id in shipped() for s in standard(id).schools]


def limit_pair(plan: Standard, check: str) -> float:
    rule = plan.check(check)
    assert rule is not None
    return rule.limit
