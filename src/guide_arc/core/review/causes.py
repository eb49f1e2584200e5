"""What was measured joined with where the client felt it; where the two disagree, that is said.

A standard's checks say where each fault may be felt. Feeling is a hint, never a proof, and pain is
no training signal at all: nothing here is a diagnosis.
"""

from __future__ import annotations

from collections.abc import Iterable

from guide_arc.core.checks.registry import too_heavy
from guide_arc.core.model.client import Feel
from guide_arc.core.model.figures import Cause
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.pain import CLINICIAN, speaks_of_pain
from guide_arc.core.review.rules import REVIEW


def felt_spots(standard: Standard) -> tuple[str, ...]:
    """Where a client may feel this exercise: its own muscle first, then where its faults are
    felt."""
    spots = [standard.muscle]
    for rule in standard.checks:
        spots += [*rule.felt, *(spot for way in rule.ways for spot in way.felt)]
    return tuple(dict.fromkeys(spots))


def causes_of(
    standard: Standard, findings: Iterable[Finding], felt: tuple[str, ...], feel: Feel = "guide"
) -> tuple[Cause, ...]:
    """Sentences that join the findings with what was felt, most telling first.

    feel : in the school to which feel is a clue to joint position only, no set is called on target,
        or off it, by feel
    """
    every = list(findings)
    if speaks_of_pain(felt):
        # What hurts is for a clinician: no fault is named as its reason.
        return (Cause("unexplained", f"Pain was reported ({'; '.join(felt)}): {CLINICIAN}."),)
    off = {f.rule.name: f for f in reversed(every) if f.verdict == "off"}
    out: list[Cause] = []
    explained: set[str] = set()
    for spot in felt:
        if spot == standard.muscle:
            continue
        blamed = [f for f in off.values() if spot in f.felt]
        for f in blamed:
            explained.add(f.rule.name)
            words = f"Felt in the {spot}, and “{_lower(f.title)}” ({f.says}): the two agree."
            out.append(Cause("agrees", words, f.key))
        if not blamed:
            out.append(Cause("unexplained", _unexplained(every, spot)))
    if feel == "clue":
        if felt == (standard.muscle,):
            words = (
                f"Felt in the {standard.muscle}: a clue to where the joints were, no proof that it"
                " worked."
            )
            out.append(Cause("clue", words))
    elif standard.muscle in felt:
        out.append(Cause("on-target", f"Felt in the {standard.muscle}, where this exercise aims."))
    elif felt:
        out.append(
            Cause("unexplained", f"Not felt in the {standard.muscle}, where this exercise aims.")
        )
    if felt:
        for f in off.values():
            if f.rule.name not in explained and f.felt:
                where = " or ".join(f.felt)
                words = f"{f.title} ({f.says}), but nothing was felt in the {where}."
                out.append(Cause("unfelt", words, f.key))
    heavy = [f for name, f in off.items() if name in too_heavy()]
    if len(heavy) >= REVIEW.enough_for_weight:
        names = ", ".join(_lower(f.title) for f in heavy[:3])
        out.append(Cause("likely", f"Together these say the weight is too heavy: {names}."))
    return tuple(out)


def _unexplained(findings: list[Finding], spot: str) -> str:
    """Why a felt spot has no fault next to it: measured and fine, not measurable, or never
    blamed."""
    about = [f for f in findings if spot in _everywhere_felt(f)]
    otherwise = [f for f in about if f.verdict == "off" and spot not in f.felt]
    if otherwise:
        f = otherwise[0]
        meant = next((w.title for w in f.rule.ways if spot in w.felt and w.title), f.rule.title)
        return (
            f"Felt in the {spot}, which goes with “{_lower(meant)}”, but measured was "
            f"“{_lower(f.title)}” ({f.says}): the two do not agree."
        )
    hidden = [f for f in about if f.verdict == "cannot-tell"]
    near = [f for f in about if f.verdict == "near"]
    if near:
        return (
            f"Felt in the {spot}: “{_lower(near[0].title)}” is close to its limit ({near[0].says})."
        )
    if about and len(hidden) == len(about):
        return (
            f"Felt in the {spot}, but “{_lower(hidden[0].title)}” could not be judged:"
            f" {hidden[0].why}."
        )
    if about:
        fine = next(f for f in about if f.verdict == "ok")
        return (
            f"Felt in the {spot}, but “{_lower(fine.title)}” was not seen ({fine.says}). Ask when"
            " in the rep."
        )
    return f"Felt in the {spot}, which no check of this exercise explains. Ask when in the rep."


def _everywhere_felt(f: Finding) -> set[str]:
    """Where a check's fault may be felt, in whichever way it departs."""
    return {*f.felt, *f.rule.felt, *(spot for way in f.rule.ways for spot in way.felt)}


def _lower(title: str) -> str:
    return title[0].lower() + title[1:]
