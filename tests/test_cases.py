"""The cases of the work: what a coach would conclude from recordings that were made by editing a
performance.

Each file in `cases/` is one: what was done, and the verdict, reason, first cue and next dose to
come to.
"""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from builders import some_of
from edits import EDITS, pace, seen, take
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.rank import proposed_cues
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

FOLDER = Path(__file__).parent / "cases"
CASES = {p.stem: tomllib.loads(p.read_text()) for p in sorted(FOLDER.glob("*.toml"))}


def reviewed_case(case: dict[str, Any]) -> Review:
    """The review of a case's recording."""
    done = take(case["standard"], case.get("done_as", case.get("school")), **case.get("script", {}))
    for edit in case.get("edit", []):
        reps = tuple(edit["reps"]) if "reps" in edit else None
        if edit["what"] == "pace":
            lasts = {k: edit[k] for k in ("lift", "top", "lower", "bottom") if k in edit}
            done = pace(done, lasts, reps)
        else:
            EDITS[edit["what"]](
                done, edit.get("by", 0.0), edit.get("when", "rep"), edit.get("side", "both"), reps
            )
    track = seen(
        done,
        case.get("view", "none"),
        case.get("noise", 2.0),
        11,
        load_kg=case.get("load_kg"),
        subject_height_m=1.75,
    )
    settings = Settings(felt=tuple(case.get("felt", ())), loose_last=case.get("loose_last", 0))
    tempo = parse_tempo(case["tempo"]) if "tempo" in case else None
    return review_set(
        track, standard(case["standard"], case.get("school")), tempo, settings=settings
    )


def change_of(review: Review, load_kg: float | None) -> str:
    """The next dose in a word."""
    plan = review.next_time
    if plan.ask_first:
        return "stop"
    if plan.load_kg is None or load_kg is None:
        return "same"
    if plan.load_kg == load_kg:
        return "more-reps" if plan.reps > review.standard.dose.reps else "same"
    heavier = plan.load_kg > load_kg
    return "up" if heavier != (review.standard.pull == "assisted") else "down"


def says(case: dict[str, Any], review: Review) -> dict[str, Any]:
    """What the review says, by the keys of a case's `expect`."""
    by = {f.rule.name: f.verdict for f in reversed(review.findings)}
    worst = {
        n: max((f.verdict for f in review.findings if f.rule.name == n), key=_ORDER.index)
        for n in by
    }
    cues = proposed_cues(review.findings)
    return {
        "off": sorted({f.rule.name for f in review.with_verdict("off")}),
        "verdict": worst,
        "reps": review.full_reps,
        "cue": cues[0].cue if cues else "",
        "cue_for": cues[0].rule.name if cues else "",
        "says": " | ".join(f.says for f in review.with_verdict("off")),
        "cause": " | ".join(c.words for c in review.causes),
        "next": change_of(review, case.get("load_kg")),
        "reason": review.next_time.reason,
        "right_from": {f.rule.name: f.right_from for f in review.with_verdict("off")},
    }


_ORDER = ("ok", "near", "cannot-tell", "off")


@pytest.mark.parametrize("name", some_of(list(CASES)))
def test_a_case_is_judged_as_a_coach_would(name):
    case = CASES[name]
    want, got = case["expect"], says(case, reviewed_case(case))
    assert want, "a case that expects nothing proves nothing"
    also = set(want.get("off", ())) | set(want.get("may", ()))
    if "off" in want:
        assert set(want["off"]) <= set(got["off"]) <= also, got
    for check in want.get("not_off", ()):
        assert check not in got["off"], got
    for check, verdict in want.get("verdict", {}).items():
        assert got["verdict"].get(check) in ([verdict] if isinstance(verdict, str) else verdict), (
            got
        )
    for check, rep in want.get("right_from", {}).items():
        assert got["right_from"].get(check) == rep, got
    for key in ("reps", "cue_for", "next"):
        if key in want:
            assert got[key] == want[key], got
    for key in ("cue", "says", "cause", "reason"):
        if key in want:
            assert want[key].lower() in got[key].lower(), got
