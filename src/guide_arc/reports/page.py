"""The page for the client: one sheet with what was good, the cues, what is next, and the
cautions."""

from __future__ import annotations

import base64
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from jinja2 import Environment, PackageLoader, select_autoescape
from markupsafe import Markup

from guide_arc.core.checks.registry import spec_of
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.mechanics.path_load import USUAL_STATURE_M, load_along
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import HARM_ORDER
from guide_arc.core.model.units import amount, spread
from guide_arc.core.planning.pain import STOP, asking_first
from guide_arc.core.review.praise import praise_of
from guide_arc.core.simulate.on_path import body_on_path, path_of
from guide_arc.drawings.days import day_words
from guide_arc.drawings.dial import DialState, arc_dial
from guide_arc.drawings.evidence import limit_on_dial
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.portrait import portrait
from guide_arc.drawings.setup_sheet import SetupState, setup_view
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.typeface import font_files
from guide_arc.drawings.words import next_words, sentence, tempo_words, which_reps
from guide_arc.formats.atomic import write_atomic
from guide_arc.library.answers import PageKey
from guide_arc.library.records import SetNotes, SetRecord
from guide_arc.library.setups import KeptSetup
from guide_arc.reports.answer_form import BODIES, policy, script
from guide_arc.reports.cues import chosen_cues
from guide_arc.reports.pdf import laid_out
from guide_arc.reports.svg import mark_svg, svg
from guide_arc.standards.cautions import caution_words

_MOST_PRAISE = 3
# The height of a cue's picture: the largest with which all of it stays on one page.
_PICTURE_PT = (176, 128, 84)
_SETUP_SIZE = (230.0, 170.0)


@dataclass(frozen=True)
class Cue:
    """One cue on the page: the words, the number behind them, and a picture."""

    words: str
    number: str
    why: str
    mark: Markup
    picture: Markup


def write_page(
    target: Path,
    record: SetRecord,
    measured: ShownSet,
    notes: SetNotes,
    coach: str,
    setup: KeptSetup | None = None,
    answer: PageKey | None = None,
) -> Path:
    """Write the page as PDF to `target` and as HTML next to it, each atomically.

    setup : the one that was kept for this client and exercise, drawn where nothing stops the next
        set
    answer : with it the HTML asks how the set was, and writes an answer to send back
    """
    for picture_pt in _PICTURE_PT:
        html = page_html(record, measured, notes, coach, picture_pt, setup)
        page = laid_out(html)
        if len(page.pages) == 1:
            break
    pdf = page.write_pdf()
    assert pdf is not None
    target = target.with_suffix(".pdf")
    if answer is not None:
        html = page_html(record, measured, notes, coach, picture_pt, setup, answer=answer)
    write_atomic(target.with_suffix(".html"), html.encode(), mode=0o600)
    write_atomic(target, pdf, mode=0o600)
    return target


def page_html(
    record: SetRecord,
    measured: ShownSet,
    notes: SetNotes,
    coach: str,
    picture_pt: int = 176,
    setup: KeptSetup | None = None,
    *,
    answer: PageKey | None = None,
) -> str:
    """The page as one HTML file that needs nothing else. answer : as for `write_page`"""
    review = measured.review
    plan = asking_first(review.next_time) if notes.pain else review.next_time
    environment = Environment(
        loader=PackageLoader("guide_arc.reports"),
        autoescape=select_autoescape(),
        trim_blocks=True,
        lstrip_blocks=True,
    )
    return environment.get_template("page.html").render(
        client=record.client,
        exercise=review.standard.name,
        school=review.standard.school.name if len(review.standard.schools) > 1 else "",
        day=day_words(record.recorded),
        load=f"{record.load_kg:g} kg" if record.load_kg else "",
        reps=reps_words(review),
        coach=coach,
        praise=[p.words for p in praise_of(review)],
        cues=[_cue(measured, f, notes) for f in chosen_cues(review, notes)],
        decided=bool(notes.decisions),
        dial=_dial(measured),
        note=notes.note,
        stop=STOP if plan.ask_first else "",
        next=next_words(plan),
        next_tempo=tempo_words(plan.tempo),
        next_rest=plan.rest_s,
        next_reserve=plan.reserve_words,
        next_why=sentence(plan.reason),
        nothing_off=_nothing_off(review),
        setup=None if setup is None or plan.ask_first else setup,
        setup_drawing=None if setup is None or plan.ask_first else _setup_drawing(measured, setup),
        cautions=[caution_words()[c] for c in review.standard.cautions if c in caution_words()],
        sure=(
            f"{review.trust.view}; angles good to ± {max(2 * review.trust.angle_u_deg, 1):.0f}°."
            if review.trust.angle_u_deg == review.trust.angle_u_deg
            else f"{review.trust.view}."
        ),
        font=typeface_data(),
        c=PAGE,
        picture_pt=picture_pt,
        answer=answer,
        answer_file=_answer_name(record),
        answer_script=script(),
        bodies=BODIES,
        policy=policy(),
    )


def _answer_name(record: SetRecord) -> str:
    """The file name of an answer. It carries no name: files get forwarded."""
    return f"answer-{record.standard}-{record.recorded[:10]}.json"


def _nothing_off(review: Review) -> str:
    """What is said if there is no cue: no more than was seen."""
    unsure = [f for f in review.findings if f.verdict in ("near", "cannot-tell")]
    if not review.findings or not review.reps:
        return "No rep could be judged."
    if not unsure:
        return "Every check was within its limit."
    likely = list(dict.fromkeys(sentence(f.says) for f in unsure if f.hint))
    if likely:
        return (
            "Nothing was surely past its limit. Likely, and worth another look:"
            f" {'; '.join(likely[:3])}."
        )
    worst = sorted(unsure, key=lambda f: HARM_ORDER.index(f.rule.harm))
    first = list(dict.fromkeys(f"{f.rule.title[:1].lower()}{f.rule.title[1:]}" for f in worst))
    named = ", ".join(first[:3]) + (f" and {len(first) - 3} more" if len(first) > 3 else "")
    return f"What could be judged was within its limit. Could not be judged: {named}."


def _setup_drawing(measured: ShownSet, setup: KeptSetup) -> Markup | None:
    """The kept setup from the side, half-way through the lift; None if this kit can't be drawn
    for it."""
    plan = measured.review.standard
    stature_m = measured.body.cleaned.track.facts.subject_height_m or USUAL_STATURE_M
    points = body_on_path(plan, stature_m, setup.bench_deg)
    try:
        load = load_along(path_of(plan, stature_m, setup.bench_deg), setup.kit)
    except BadInput:
        return None
    middle = len(points["left_wrist"]) // 2
    state = SetupState(points, middle, setup.kit, load, ())
    drawn = setup_view(state, "side", *_SETUP_SIZE)
    return Markup(svg(drawn, PAGE, f"Your setup: {setup.words}"))


def reps_words(review: Review) -> str:
    """`10 reps`, `10 full reps and 2 short ones`."""
    full, partial = review.full_reps, len(review.reps) - review.full_reps
    sides = {r.side for r in review.reps}
    if sides == set(SIDES):
        left = sum(r.side == "left" and r.full for r in review.reps)
        right = sum(r.side == "right" and r.full for r in review.reps)
        return f"{left} reps left and {right} right"
    if partial:
        return f"{full} full reps and {partial} short"
    return f"{full} rep{'' if full == 1 else 's'}"


def _cue(measured: ShownSet, finding: Finding, notes: SetNotes) -> Cue:
    decision = notes.decisions.get(finding.key)
    words = (decision.words if decision else None) or finding.cue
    number = sentence(finding.says)
    if finding.value is not None and finding.uncertainty is not None:
        least = spec_of(finding.rule.name).least
        bound = f"{'at least' if least else 'up to'} {amount(finding.limit, finding.unit)}"
        number += f" (± {spread(finding.uncertainty, finding.unit)}; {bound} is fine)"
        if finding.reps:
            number += f", {which_reps(finding)}"
    picture = svg(
        portrait(measured, finding, 190, 220),
        PAGE,
        f"{finding.title}: your pose against the guide",
    )
    return Cue(
        words,
        number + ".",
        finding.matters,
        Markup(mark_svg(finding.verdict, PAGE)),
        Markup(picture),
    )


def _dial(measured: ShownSet) -> Markup:
    review = measured.review
    drives = list(measured.repset.drives.values())
    limits = [limit_on_dial(measured, f) for f in review.with_verdict("off")]
    limit = next((v for v in limits if v is not None), None)
    measure = review.reps[0].measure if review.reps else review.standard.drive
    state = DialState(
        joint=spec_of_measure(measure).joint,
        intended=drives[0].intended if drives else review.standard.range,
        rings=measured.rings,
        limit_deg=limit,
    )
    words = f"The {spec_of_measure(measure).joint}'s range in each of {len(review.reps)} reps"
    return Markup(svg(arc_dial(state, 250, 250), PAGE, words))


@cache
def typeface_data() -> dict[str, str]:
    """The shipped type as data, so that the page needs no other file."""
    return {weight: base64.b64encode(data).decode() for weight, data in font_files().items()}
