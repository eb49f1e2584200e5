"""A standard as it is or would be: performed for its tile, and tried on a clean set and the
library's sets."""

from __future__ import annotations

import copy
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from guide_arc.app.contract.job import Progress
from guide_arc.app.places.standards.figure import FIGURE
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Standard
from guide_arc.drawings.standard_sheet import Film, film
from guide_arc.library.trial import TrialResult, Trials, trial_words
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import build, change, with_usual_words
from guide_arc.standards.proof import BRISK, clean_review, cycle_of


@dataclass(frozen=True, eq=False)
class Proof:
    """The simulated client's clean set, and the library's sets, against one standard."""

    clean: Review
    trial_results: list[TrialResult]


def prove(plan: Standard, catalogue: Catalogue, trials: Trials, progress: Progress) -> Proof:
    progress(0.0)
    clean = clean_review(plan)
    return Proof(clean, trials.against(plan, catalogue, progress))


def proof_words(proof: Proof, marked: str | None) -> str:
    """What the sets say of the standard, or of its marked check."""
    wrong = list(dict.fromkeys(f.title for f in proof.clean.findings if f.verdict == "off"))
    count = len({f.rule.name for f in proof.clean.findings})
    clean = f"{', '.join(wrong)} off" if wrong else f"all {count} checks hold"
    rule = proof.clean.standard.check(marked) if marked else None
    words = trial_words(proof.trial_results, marked)
    if proof.trial_results:
        words = f"{f'{rule.title}, with this limit' if rule else 'As it stands'}: {words}"
    return f"{words}. The clean set: {clean}."


@lru_cache(maxsize=256)
def film_of(plan: Standard) -> Film:
    """The tile's moving picture; made once for a standard as it is."""
    cycle = cycle_of(plan, BRISK)
    return film(plan, cycle.time_s, cycle.points, cycle.extent, *FIGURE)


def preview(catalogue: Catalogue, plan: Standard, values: Mapping[str, float]) -> Standard:
    """The chosen standard with some keys changed, as its school would see it; nothing is kept.

    Raises BadInput if that is no standard.
    """
    raw = with_usual_words(copy.deepcopy(catalogue.raw(plan.id)))
    school = next(s for s in raw["school"] if s["id"] == plan.school.id)
    for key, value in values.items():
        if key in school.get("set", {}):
            school["set"][key] = value
        else:
            change(raw, key, value, plan.id)
    return build(raw, f"{plan.id}.toml", plan.school.id)
