"""Which recording would show what this one hides, as advice to the person who films."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Final

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.rep import WorkSide
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View

_BOTH: Final = ("the left side", "the right side")
ONLY_SPACE: Final = "only a recording in space shows it"


def with_remedies(
    findings: Iterable[Finding], standard: Standard, view: View, worked: WorkSide
) -> list[Finding]:
    """The findings; those that the view hides say from where to film, by what was tried on the
    standard.

    worked : the arm that the set was done with, or both
    """
    out = []
    for f in findings:
        about = f.side if f.side != "both" or standard.arms != "one" else worked
        told = remedy(f, about, standard, view) if f.by_view else ""
        out.append(replace(f, why=f"{f.why}; {told}") if told else f)
    return out


def remedy(finding: Finding, about: WorkSide, standard: Standard, view: View) -> str:
    """The advice for one finding; empty if no other recording is known to show it."""
    letters = standard.shown_from.get(finding.rule.name)
    if letters is None:
        # A standard of one's own: what it recommends is the best guess.
        places = [_named(v, about) for v in standard.views if v != view]
    else:
        places = _places(letters, about, standard, view)
        if not places and view != "none" and "S" in letters:
            return ONLY_SPACE
    told = " or ".join(dict.fromkeys(places))
    for both in (_BOTH, _BOTH[::-1]):
        told = told.replace(" or ".join(both), "either side")
    return f"film from {told}" if told else ""


def _places(letters: str, about: WorkSide, standard: Standard, view: View) -> list[str]:
    own = SIDES if about == "both" else (about,)
    other = tuple(s for s in SIDES if s not in own)
    seen = [v for letter, v in (("F", "front"), ("B", "back")) if letter in letters]
    for letter, sides in (("N", own), ("A", other)):
        if letter in letters and view not in sides:
            seen += sides
    seen = sorted((v for v in seen if v != view), key=lambda v: v not in standard.views)
    # Front and back show the same; the one that the standard recommends, or the front, is enough.
    facing = [v for v in seen if v in ("front", "back")][1:]
    return [_named(v, about) for v in seen if v not in facing]


def _named(view: str, about: WorkSide) -> str:
    if view not in SIDES:
        return f"the {view}"
    return "the side" if about == "both" else f"the {view} side"
