"""From a finding or a rep to the setup that would change it."""

from __future__ import annotations

from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.app.services.destinations import ToSetup
from guide_arc.core.checks.registry import spec_of
from guide_arc.core.mechanics.find_setup import Wish
from guide_arc.core.mechanics.rep_path import RecordedRep, body_of_rep
from guide_arc.core.model.errors import BadInput


def open_setup(program: ReviewNeeds, model: ReviewModel) -> None:
    """The setup of this exercise on the chosen rep, with the wish that the chosen finding asks
    for."""
    record, finding = model.doc.record, model.doc.finding
    if record is not None:
        wish = spec_of(finding.rule.name).wish if finding is not None else ""
        program.go(
            ToSetup(
                standard=record.standard,
                client=record.client,
                school=record.school,
                wish=Wish(no_slack=wish == "no_slack", in_plane=wish == "in_plane")
                if wish
                else None,
                rep=_recorded_rep(program, model),
            )
        )


def _recorded_rep(program: ReviewNeeds, model: ReviewModel) -> RecordedRep | None:
    """The chosen rep, else the finding's worst, else the first, in the form that Setup uses."""
    record, measured, finding = model.doc.record, model.doc.measured, model.doc.finding
    if record is None or measured is None or not measured.review.reps:
        return None
    reps = measured.review.reps
    about = [r for r in reps if finding is not None and finding.is_about(r)]
    rep = model.doc.rep or (about or reps)[0]
    try:
        share, points = body_of_rep(measured.body, measured.review.standard, rep)
    except BadInput as error:
        program.say(f"{str(error)[:1].upper()}{str(error)[1:]}.")
        return None
    words = f"rep {rep.number} of {record.recorded[:10]}"
    return RecordedRep(words, record.standard, record.client, record.load_kg, share, points)
