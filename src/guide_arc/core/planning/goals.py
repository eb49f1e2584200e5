"""What a client's goals, in the coach's own words, ask of a session: regions that come first."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Final

# Words of a goal, and the regions that they name. Longer phrases come first: "upper chest" is not
# the whole chest.
_REGIONS_OF: Final[tuple[tuple[str, tuple[str, ...]], ...]] = (
    (r"upper chest", ("chest-upper",)),
    (r"lower chest", ("chest-lower",)),
    (r"chest|pecs?", ("chest-upper", "chest-lower")),
    (r"(?:wider|broader|side) shoulders?|side delts?", ("side-shoulder", "rear-shoulder")),
    (r"rear (?:shoulders?|delts?)|posture", ("rear-shoulder", "back")),
    (r"front (?:shoulders?|delts?)|overhead", ("front-shoulder",)),
    (r"shoulders?|delts?", ("side-shoulder", "rear-shoulder", "front-shoulder")),
    (r"wider back|lats?|back", ("back",)),
    (r"biceps|elbow flexors", ("elbow-flexors",)),
    (r"triceps", ("triceps",)),
    (r"arms", ("elbow-flexors", "triceps")),
    (r"traps?|trapezius", ("traps",)),
    (r"abs|abdominals?|core|trunk|waist", ("trunk",)),
)
# Words after which what follows is not wanted: "no chest", "without overhead".
_NOT: Final = re.compile(r"\b(?:no|not|without|avoid|less)\s+(?:\w+\s+)?$")
# Goals that name a part of the body without wanting more work for it: "lower back pain", "after the
# shoulder", "both arms alike".
_CARE: Final = re.compile(
    r"\b(?:pain|ache|sore|injur\w*|surgery|after|alike|equal|even|symmetr\w*)\b"
)


@dataclass(frozen=True)
class Goal:
    """A region that a goal names. words : the coach's words for it"""

    region: str
    words: str


def goals_of(text: str) -> tuple[Goal, ...]:
    """The regions that goals name, in the order of the words, each once.

    text : several goals may be parted by commas, semicolons or lines; a goal about pain, an injury
        or even sides names nothing to train"""
    found: dict[str, Goal] = {}
    for goal in re.split(r"[,;\n]", text.lower()):
        if _CARE.search(goal):
            continue
        taken: list[tuple[int, int]] = []
        named: list[tuple[int, str, tuple[str, ...]]] = []
        for pattern, regions in _REGIONS_OF:
            for m in re.finditer(rf"\b(?:{pattern})\b", goal):
                if any(a < m.end() and m.start() < b for a, b in taken):
                    continue
                taken.append(m.span())
                if not _NOT.search(goal[: m.start()]):
                    named.append((m.start(), m[0], regions))
        for _at, words, regions in sorted(named):
            for region in regions:
                found.setdefault(region, Goal(region, words))
    return tuple(found.values())
