"""Form against load: what was held, at which weight it breaks, by what, and what follows from
it."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from guide_arc.core.model.units import amount, spread
from guide_arc.core.planning.kept_set import CheckTrace, KeptSet
from guide_arc.core.planning.rules import PLAN


@dataclass(frozen=True)
class Jump:
    """A step in the load from one set to the next. at : the index of the later one"""

    at: int
    share: float

    @property
    def large(self) -> bool:
        return abs(self.share) > PLAN.most_jump_share + 1e-9


@dataclass(frozen=True)
class Broke:
    """How form breaks at a weight: by which check, from which rep on, in how many of the sets.

    value, u, limit : the median of the sets; u holds 95 % of the errors
    """

    load_kg: float | None
    title: str
    from_rep: int
    sets: int
    of: int
    unit: str
    value: float
    u: float
    limit: float


@dataclass(frozen=True)
class Course:
    """The sets of one client and exercise, oldest first, with what they say together.

    best : the set of the hardest weight, and there of the most reps, in which form was seen to hold
    run : the latest sets that held at one weight, without a break in between; empty if the last
        one broke
    broke : at the hardest weight at which form broke
    """

    sets: tuple[KeptSet, ...]
    jumps: tuple[Jump, ...]
    best: KeptSet | None
    run: tuple[KeptSet, ...]
    broke: Broke | None
    assisted: bool = False


def course_of(sets: Sequence[KeptSet], *, assisted: bool = False) -> Course:
    """The course of one exercise. sets : oldest first"""
    every = tuple(sets)
    held = [s for s in every if s.held]
    return Course(
        every,
        _jumps(every),
        max(held, key=lambda s: _hard(s, assisted), default=None),
        _run(every),
        _broke(every, assisted),
        assisted,
    )


def _hard(done: KeptSet, assisted: bool) -> tuple[float, int, date]:
    load = done.load_kg or 0.0
    return (-load if assisted else load), done.full, done.on


def _jumps(sets: tuple[KeptSet, ...]) -> tuple[Jump, ...]:
    out = []
    for i, (a, b) in enumerate(itertools.pairwise(sets), 1):
        if a.load_kg and b.load_kg and a.load_kg != b.load_kg:
            out.append(Jump(i, b.load_kg / a.load_kg - 1.0))
    return tuple(out)


def _run(sets: tuple[KeptSet, ...]) -> tuple[KeptSet, ...]:
    """The newest unbroken row of held sets at one weight that is at the end, or before a try at
    another."""
    held = [i for i, s in enumerate(sets) if s.held]
    if not held:
        return ()
    last = held[-1]
    if any(s.broke and s.load_kg == sets[last].load_kg for s in sets[last + 1 :]):
        return ()  # it broke since, at the same weight
    first = last
    while first > 0 and not sets[first - 1].broke and sets[first - 1].load_kg == sets[last].load_kg:
        first -= 1
    # What was not seen well enough takes no part.
    return tuple(s for s in sets[first : last + 1] if s.held)


def _broke(sets: tuple[KeptSet, ...], assisted: bool) -> Broke | None:
    broken = [s for s in sets if s.broke]
    if not broken:
        return None
    hardest = max(broken, key=lambda s: _hard(s, assisted)).load_kg
    own = [s for s in sets if s.load_kg == hardest]
    named = [[c for r in s.trace.reps for c in r.off] for s in own if s.broke]
    # What breaks in most of these sets, and there in most reps.
    checks = {c for names in named for c in names}
    main = max(
        sorted(checks),
        key=lambda c: (sum(c in names for names in named), sum(names.count(c) for names in named)),
    )
    found: list[CheckTrace] = []
    first: list[int] = []
    for done in own:
        reps = done.trace.reps
        at = next((i for i, r in enumerate(reps, 1) if main in r.off), None)
        if at is None:
            continue
        first.append(at)
        off = [c for c in done.trace.checks if c.check == main and c.value is not None]
        found += sorted(off, key=lambda c: c.verdict != "off")[:1]
    values = [c.value for c in found if c.value is not None]
    us = [c.u for c in found if c.u is not None]
    if not values:
        return None
    return Broke(
        load_kg=hardest,
        title=found[-1].title,
        from_rep=round(float(np.median(first))),
        sets=len(first),
        of=len(own),
        unit=found[-1].unit,
        value=float(np.median(values)),
        u=float(np.median(us)),
        limit=found[-1].limit,
    )


def says(course: Course) -> tuple[str, ...]:
    """The sentences that follow: what was held, where it breaks."""
    out = []
    if course.run:
        out.append(_run_words(course))
    elif course.best is not None:
        best = course.best
        out.append(f"Held {_kg(best.load_kg)}for {best.full}, last on {_day(best.on)}.")
    elif course.sets:
        unseen = all(not s.broke for s in course.sets)
        out.append(
            "No set broke, but none was seen well enough to say that form held."
            if unseen
            else "Form has not held for a whole set yet."
        )
    if course.broke is not None:
        out.append(_broke_words(course.broke))
    return tuple(out)


def _run_words(course: Course) -> str:
    run = course.run
    reps = min(s.full for s in run)
    days = sorted({s.on for s in run})
    weeks = (days[-1] - days[0]).days // 7 + 1
    if len(days) < 2:
        often = ""
    elif weeks >= len(days) and weeks > 1:
        often = f", {_count(weeks)} weeks running"
    else:
        often = f", {_count(len(days))} sessions running"
    return f"Held {_kg(run[-1].load_kg)}for {reps}{often}."


def _broke_words(broke: Broke) -> str:
    load = f"At {broke.load_kg:g} kg" if broke.load_kg is not None else "When it breaks"
    each = (
        " each time"
        if broke.sets == broke.of and broke.of > 1
        else (f", in {broke.sets} of {broke.of} sets" if broke.of > 1 else "")
    )
    title = f"{broke.title[:1].lower()}{broke.title[1:]}"
    sure = f"{amount(broke.value, broke.unit)} ± {spread(broke.u, broke.unit)}"
    return (
        f"{load}, from rep {broke.from_rep}{each}: {title} ({sure},"
        f" {amount(broke.limit, broke.unit)} allowed)."
    )


def _kg(load: float | None) -> str:
    return f"{load:g} kg " if load is not None else ""


_NUMBERS = (
    "no",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
)


def _count(n: int) -> str:
    return _NUMBERS[n] if n < len(_NUMBERS) else str(n)


def _day(day: date) -> str:
    return f"{day.day} {day:%b %Y}"
