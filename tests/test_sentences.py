"""Every sentence that a review can say, gathered on one page: plain English, and what is said
today."""

from __future__ import annotations

import re
import sys
from pathlib import Path

import pytest

from builders import few_of
from guide_arc.standards.loader import shipped, standard

ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "docs" / "sentences.md"
LINES = [line for line in PAGE.read_text(encoding="utf-8").splitlines() if line.startswith("- ")]
SAID = [re.sub(r" \*\(.*\)\*$", "", line.removeprefix("- ")) for line in LINES]
# What would tell that words were put together wrongly.
WRONG = {
    "a value that is none": re.compile(r"\bnan\b|\bNone\b|\binf\b"),
    "a word twice": re.compile(r"\b(\w{2,}) \1\b"),
    "two marks": re.compile(r"[,;:.]\s*[,;:.]|\s[,;.]|\(\)"),
    "the same view again": re.compile(r"from the (\w+); film from the \1\b"),
    "shows it to see it": re.compile(r"shows it to see it|\bto see it to see it"),
    "an underscore": re.compile(r"\w_\w"),
    "one of many": re.compile(r"\b1 (reps|sets|lifts)\b"),
    "a name inside": re.compile(r"\{|\}"),
}


@pytest.mark.parametrize("wrong", WRONG)
def test_no_sentence_is_put_together_wrongly(wrong: str) -> None:
    found = [s for s in SAID if WRONG[wrong].search(s)]
    assert not found


def test_where_something_hurts_no_reason_is_named() -> None:
    told = [s for s in SAID if "sharp" in s]
    assert told
    assert all("clinician" in s for s in told)


@pytest.mark.parametrize("id", ["standing-barbell-curl", "kneeling-cable-crunch"])
def test_the_page_says_what_a_review_says_today(id: str) -> None:
    sys.path.insert(0, str(ROOT / "tools"))
    try:
        from sentences_doc import every_school, of_school
    finally:
        sys.path.pop(0)
    pair = next(p for p in every_school() if p[0] == id)
    said = {f"{words}" for _kind, words, _at in of_school(pair, tuple(few_of(("none", "left"))))}
    assert said
    assert said <= set(SAID), "made again by tools/sentences_doc.py"


# What a reason must not speak of where the elbow departs the other way.
OPPOSITE = {
    "low": re.compile(r"\b(rise|fly out|at shoulder height|level with the shoulders)\b"),
    "high": re.compile(r"\b(drop|dips?|stay low|slide toward the hips|come down)\b"),
    "in": re.compile(r"\b(fly out|go out|out to the side|straight ahead)\b"),
    "out": re.compile(r"\b(to the ribs|close to the ribs)\b"),
    "ahead": re.compile(r"\bBehind\b"),
    "behind": re.compile(r"\b(comes? ahead|drifts? ahead|in front)\b"),
}


@pytest.mark.parametrize("way", OPPOSITE)
def test_a_reason_speaks_of_the_way_in_which_the_elbow_departs(way: str) -> None:
    for id in shipped():
        for school in standard(id).schools:
            rule = standard(id, school.id).check("elbow-path")
            if rule is not None:
                assert not OPPOSITE[way].search(rule.words_for(way).why), (id, school.id)
