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
    """words : as the client reads them; checks : the checks that were `ok` and together prove every
    part of them"""

    words: str
    checks: tuple[str, ...]


def praise_of(review: Review) -> tuple[Praise, ...]:
    """What was right, the standard's own sentences first, at most three.

    A check counts only if it was seen and `ok` on every side: `near` and `cannot-tell` prove
    nothing. What the standard's own sentences have said is not said again in a check's words."""
    if not review.reps:
        return ()
    seen = dict.fromkeys(f.rule.name for f in review.findings)
    fine = {name for name in seen if _held(review, name)}
    out = []
    for line in review.standard.praise:
        proof = line.proof or tuple(seen)
        if proof and fine.issuperset(proof):
            out.append(Praise(line.words, proof))
    said = {name for praise in out for name in praise.checks}
    partly = {f.rule.name for f in review.findings if f.partly}
    for name in seen:
        words = specs()[name].praise
        if name in fine and name not in said | partly and words not in ("", "*"):
            out.append(Praise(words, (name,)))
    return tuple(out[:_MOST])


def _held(review: Review, check: str) -> bool:
    """Whether a check was seen, by the program or by the coach's eye, and ok on every side, of
    something that was asked for: where nothing was asked, nothing was kept."""
    found = [f for f in review.findings if f.rule.name == check]
    part = specs()[check].tempo_part
    asked = not part or bool(getattr(review.tempo, part))
    if check == "hold-missing":
        asked = any(f.limit > 0 for f in found)
    return asked and all(f.judged == "ok" for f in found)
