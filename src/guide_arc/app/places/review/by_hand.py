"""What the coach changes by hand in what a review rests on: reps, loose last ones, felt places, the
coach's own eye. Each gives other settings; the review is then computed with them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Final, Literal, NamedTuple

from guide_arc.app.places.review.document import ReviewDocument
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.model.settings import Correction, CorrectionKind, EyeAnswer, Saw, Settings
from guide_arc.drawings.ribbon import edges_of
from guide_arc.drawings.shown_set import ShownSet

_UNFIT: Final[Mapping[str, str]] = {
    "edge": "There is no boundary to move there.",
    "delete": "There is no rep there.",
    "split": "There is no rep there that could be two.",
    "merge": "There is no rep after this one to merge with.",
    "add": "Nothing there comes and goes like a rep.",
    "bounds": "There is no rep between these moments.",
    "partials": "No rep is partial from here on.",
}
_SHORTEST_SET_S: Final = 0.5


class OtherSettings(NamedTuple):
    """words : of the step of undo; correction : the one among the settings that has to fit"""

    words: str
    settings: Settings
    correction: Correction | None = None


# Words say why it can't be; None changes nothing.
Asked = OtherSettings | str | None


def corrected(doc: ReviewDocument, words: str, correction: Correction) -> OtherSettings:
    settings = replace(doc.settings, corrections=(*doc.settings.corrections, correction))
    return OtherSettings(words, settings, correction)


def corrected_here(
    doc: ReviewDocument, at_s: float, kind: CorrectionKind, words: str
) -> OtherSettings:
    """A correction at the clock: "delete", "split", "merge", "add"."""
    if kind in ("delete", "merge") and doc.rep is not None:
        at_s = doc.rep.turn_s  # this is about the chosen rep, at any time within it
    return corrected(doc, words, Correction(kind, at_s, side=_side(doc)))


def edge_moved_here(doc: ReviewDocument, at_s: float) -> Asked:
    """The boundary nearest to the clock comes to the clock."""
    side = _side(doc)
    near: list[tuple[float, Rep, Correction]] = [
        (abs(was - at_s), rep, Correction("edge", was, at_s, side, edge))
        for rep in doc.reps
        if rep.side == side
        for edge, was in edges_of(rep)
    ]
    if not near:
        return "There is no boundary to move."
    _gap, rep, change = min(near, key=lambda n: n[0])
    return corrected(doc, f"Boundary of rep {rep.number}", change)


def bounded(
    doc: ReviewDocument, whole: tuple[float, float], end: Literal["start", "end"], at_s: float
) -> Asked:
    """The set truly starts, or ends, at the clock. whole : the recording, seconds"""
    start_s, end_s = doc.settings.bounds or whole
    if end == "start":
        start_s = at_s
    else:
        end_s = at_s
    if end_s - start_s < _SHORTEST_SET_S:
        return "The set must end after it starts."
    words = "Start of the set" if end == "start" else "End of the set"
    return corrected(doc, words, Correction("bounds", start_s, end_s))


def partials_here(doc: ReviewDocument, at_s: float) -> Asked:
    """From the chosen rep on, partial reps were asked for; the same again takes that back."""
    start_s = doc.rep.lift.start_s if doc.rep is not None else at_s
    others = tuple(c for c in doc.settings.corrections if c.kind != "partials")
    if doc.settings.partials_from_s == start_s:
        return OtherSettings("No partial reps", replace(doc.settings, corrections=others))
    if not any(not r.full and r.turn_s >= start_s for r in doc.reps):
        return _UNFIT["partials"]
    made = (*others, Correction("partials", start_s))
    return OtherSettings("Partial reps from here", replace(doc.settings, corrections=made))


def uncorrected(doc: ReviewDocument) -> Asked:
    """All corrections by hand taken back, as one step."""
    if not doc.settings.corrections:
        return None
    return OtherSettings("All corrections back", replace(doc.settings, corrections=()))


def felt_there(doc: ReviewDocument, spot: str) -> OtherSettings:
    """The client felt it there; again takes that back."""
    felt = doc.settings.felt
    felt = tuple(s for s in felt if s != spot) if spot in felt else (*felt, spot)
    return OtherSettings("Where it was felt", replace(doc.settings, felt=felt))


def seen(doc: ReviewDocument, finding: Finding, saw: Saw, coach: str, now: str) -> OtherSettings:
    """The coach's own eye saw a check hold or break. The same again takes it back."""
    again = seen_already(doc, finding, saw)
    settings = doc.settings
    for own in doc.spoken_for(finding):
        answer = None if again else EyeAnswer(own.key, saw, coach, now)
        settings = settings.with_eye(answer, own.key)
    verb = {"held": "Seen to hold", "broke": "Seen to break"}[saw]
    return OtherSettings(f"{verb}{' taken back' if again else ''}: “{finding.title}”", settings)


def seen_already(doc: ReviewDocument, finding: Finding, saw: Saw) -> bool:
    before = doc.settings.seen_by_eye(finding.key)
    return before is not None and before.saw == saw


def next_waited_for(doc: ReviewDocument) -> Finding | None:
    """The first check that the next weight waits for."""
    return next((f for f in doc.findings if doc.waits_for(f) and f.judged != "ok"), None)


def loosened(doc: ReviewDocument, last: int) -> Asked:
    """That many of the last reps may be loose."""
    if last < 0 or last == doc.settings.loose_last:
        return None
    return OtherSettings("Loose last reps", replace(doc.settings, loose_last=last))


def why_unfit(asked: OtherSettings, before: ShownSet, tried: ShownSet) -> str:
    """Why a correction that was tried does nothing; empty if it does."""
    change = asked.correction
    if change is None:
        return ""
    fits = change not in tried.repset.unfit
    if not fits or (change.kind == "bounds" and not tried.review.reps):
        return _UNFIT[change.kind]
    same = [_edges(r) for r in tried.review.reps] == [_edges(r) for r in before.review.reps]
    return "That changes nothing." if same else ""


def _side(doc: ReviewDocument) -> WorkSide:
    """The side that a correction is about: the chosen rep's, or the set's."""
    if doc.rep is not None:
        return doc.rep.side
    return next(iter(doc.measured.repset.drives), "both") if doc.measured else "both"


def _edges(rep: Rep) -> tuple[float, float, float, float]:
    return rep.lift.start_s, rep.lift.end_s, rep.lower.start_s, rep.lower.end_s
