"""Pain comes first: it is no training signal, and what hurts is not loaded again before a clinician
was asked."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace
from typing import Final

from guide_arc.core.model.prescription import Prescription

# The ways in which clients say that something hurts, by how the words begin.
_WORDS: Final = (
    r"(pain|ache|aching|sharp|pinch|sting|stung|numb|tingl|dizz|hurt|stab|faint|twinge|click|catch|caught|popp|pops\b|"
    r"shooting|throb|grind|schmerz|stechen|sticht|taub|kribbel|schwindel|dolor|duele|punzada|pinchazo|hormigueo|"
    r"entumecid|mareo|douleur|élanc|engourd|dolore|fitta|formicol)"
)
_PAIN: Final = re.compile(rf"\b{_WORDS}", re.IGNORECASE)
# Denied only if the denial is right before the word: what is unclear counts as pain.
_DENIED: Final = re.compile(
    rf"\b(no|not|without|never|keine?n?|ohne|sin|sans|senza)\s+((any|a)\s+)?{_WORDS}\w*",
    re.IGNORECASE,
)
STOP: Final = "Stop this exercise, and see a licensed clinician before it is loaded again."
CLINICIAN: Final = "no load is proposed until a licensed clinician has been consulted"
CLEARED: Final = "a clinician's word, noted by the coach"


def speaks_of_pain(felt: Iterable[str]) -> bool:
    """Whether a place where the set was felt is said with pain: `lower back, sharp`."""
    return any(_PAIN.search(_DENIED.sub("", words)) for words in felt)


def asking_first(plan: Prescription) -> Prescription:
    """No next load, whatever was measured: pain never chooses a lighter weight either."""
    why = f"pain was reported: {CLINICIAN}"
    return replace(plan, change="stop", load_kg=None, reasons=(why,), then=CLEARED)
