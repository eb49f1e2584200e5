"""No cue asks for what the setup or the school makes impossible: tried for every school of every
standard."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest

from guide_arc.core.model.standard import CheckRule, Standard
from guide_arc.standards.loader import shipped, standard

STANDING = re.compile(r"\b(over your feet|stand (tall|over)|heels|hips back|knees soft)\b", re.I)
EVERY = [(id, school.id) for id in shipped() for school in standard(id).schools]


def said(rule: CheckRule) -> Iterator[str]:
    """Everything that may be said to a client for a check."""
    yield from (rule.cue, *rule.other_cues)
    for way in rule.ways:
        yield from (way.cue, *way.other_cues)


@pytest.mark.parametrize(("id", "school"), EVERY)
def test_who_sits_or_lies_is_not_told_to_stand(id: str, school: str):
    plan = standard(id, school)
    if plan.base not in ("seated", "prone", "plank", "on-hands", "kneeling"):
        return
    words = STANDING
    if plan.base in ("plank", "on-hands"):
        words = re.compile(r"\b(over your feet|stand (tall|over))\b", re.I)
    told = [(r.name, s) for r in plan.checks for s in said(r) if words.search(s)]
    assert told == []


def overhead(plan: Standard) -> bool:
    return plan.turn.elevation_deg > 120.0


@pytest.mark.parametrize(("id", "school"), EVERY)
def test_no_cue_uses_another_schools_words(id: str, school: str):
    """A raise that goes overhead is not told to stop at the shoulder, and the other way round; a
    lockout is not told to stop before straight, and constant tension not to lock out; a bend that
    is kept is not told to straighten."""
    plan = standard(id, school)
    told = [(r.name, s) for r in plan.checks for s in said(r)]
    if plan.drive == "shoulder_elevation" and overhead(plan):
        assert not [t for t in told if re.search(r"(stop|no higher).*(shoulder|level)", t[1], re.I)]
    rises = (
        plan.drive == "shoulder_elevation" and plan.turn.elevation_deg > plan.start.elevation_deg
    )
    if rises and not overhead(plan):
        assert not [
            t for t in told if re.search(r"\b(overhead|past the ears|to the ceiling)\b", t[1])
        ]
    if school in ("constant-tension", "one-bend"):
        assert not [t for t in told if re.search(r"\b(lock (it )?out|straight at the top)\b", t[1])]
    if school in ("lockout",):
        assert not [
            t for t in told if re.search(r"\b(stop before straight|never straight)\b", t[1], re.I)
        ]
