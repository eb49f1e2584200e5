"""What a client is praised for: only what checks of this very recording prove."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.checks.registry import specs
from guide_arc.core.model.review import Review

# More than three good words are not read.
_MOST: Final = 3


@dataclass(frozen=True)
class Praise:
    """words : as the client reads them; checks : the checks that were `ok` and together prove every part of them"""

    words: str
    checks: tuple[str, ...]


def praise_of(review: Review) -> tuple[Praise, ...]:
    """What was right, the standard's own sentence first, at most three.

    A check counts only where it was seen and `ok` on every side: neither `near` nor `cannot-tell` proves anything. The
    standard's own sentence speaks of the whole movement, so it needs every check of the standard.
    """
    if not review.reps:
        return ()
    seen = dict.fromkeys(f.rule.name for f in review.findings)
    fine = [
        name
        for name in seen
        if all(f.verdict == "ok" for f in review.findings if f.rule.name == name)
    ]
    partly = {f.rule.name for f in review.findings if f.partly}
    asked = [name for name in fine if _is_asked(review, name)]
    out = [
        Praise(specs()[name].praise, (name,))
        for name in asked
        if name not in partly and specs()[name].praise not in ("", "*")
    ]
    if fine and len(fine) == len(seen):
        out.insert(0, Praise(review.standard.praise, tuple(fine)))
    return tuple(out[:_MOST])


def _is_asked(review: Review, check: str) -> bool:
    """Whether a check holds the reps against a tempo that was asked for; where nothing was asked, nothing was kept."""
    part = specs()[check].tempo_part
    return not part or bool(getattr(review.tempo, part))
