"""Computing a set's review and keeping it: the one way that window, demo and batch share."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from guide_arc import __version__
from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import CheckRule, Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.planning.history import NO_PAST, Past
from guide_arc.core.reps.segment import RepSet
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.review.together import together
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.clients import Clients
from guide_arc.library.kept_forms import kept_forms
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.pasts import past_of
from guide_arc.library.planning import partials_asked
from guide_arc.library.records import SetRecord
from guide_arc.library.setups import as_set_up
from guide_arc.library.store import Library
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.tempo import parse_tempo

Progress = Callable[[float], None]


def compute(
    record: SetRecord,
    track: LandmarkTrack,
    plan: Standard,
    progress: Progress | None = None,
    also: tuple[str, ...] = (),
    past: Past = NO_PAST,
) -> tuple[Review, Body, RepSet]:
    """The review of a set as the library knows it. `plan` : see `plan_of`; `also` : landmarks for
    showing"""
    track = replace(track, facts=replace(track.facts, load_kg=record.load_kg))
    tempo = parse_tempo(record.tempo) if record.tempo else None
    return review_with_body(
        track, plan, tempo, progress=progress, also=also, settings=record.notes.settings, past=past
    )


def plan_of(library: Library, record: SetRecord, catalogue: Catalogue) -> Standard:
    """A set's standard as its school sees it, with the words that this client understands, and its
    kit where the client's kept setup has it."""
    plan = catalogue.standard(record.standard, school_of(record, catalogue))
    plan = as_set_up(library, plan, record.client, record.recorded)
    partials = partials_asked(library, record.client, record.standard, record.recorded)
    if partials:
        plan = replace(plan, dose=replace(plan.dose, partials=partials))
    own = Clients(library).own_words(record.client)
    if not own:
        return plan
    return replace(plan, checks=tuple(_said_so(rule, own.get(rule.name)) for rule in plan.checks))


def _said_so(rule: CheckRule, words: str | None) -> CheckRule:
    if words is None:
        return rule
    ways = tuple(replace(way, cue=words if way.cue else "") for way in rule.ways)
    return replace(rule, cue=words, ways=ways)


def other_views(library: Library, set_id: int, plan: Standard) -> tuple[Review, ...]:
    """The reviews of the recordings that show a set's reps from other sides."""
    tempo = library.record(set_id).tempo
    out = []
    for other in library.other_views(set_id):
        record = replace(library.record(other), tempo=tempo)
        if not record.waits_for_landmarks:
            out.append(compute(record, library.track(other), plan)[0])
    return tuple(out)


def school_of(record: SetRecord, catalogue: Catalogue) -> str:
    """The set's school, or the strict one where the coach's own file has no such school any
    more."""
    schools = [s.id for s in catalogue.standard(record.standard).schools]
    return record.school if record.school in schools else schools[0]


def review_and_keep(
    library: Library,
    set_id: int,
    track: LandmarkTrack | None = None,
    progress: Progress | None = None,
) -> Review:
    """Compute a set's review and keep it in the library. `track` spares reading it again."""
    review = review_of(library, set_id, track, progress)
    keep_review(library, set_id, review)
    return review


def review_of(
    library: Library,
    set_id: int,
    track: LandmarkTrack | None = None,
    progress: Progress | None = None,
) -> Review:
    """A set's review with all that the library knows: its other views, and what was done before
    it."""
    recorded = track if track is not None else library.track(set_id)
    record = library.record(set_id)
    plan = plan_of(library, record, OwnStandards(library).catalogue())
    past = past_of(library, set_id, plan)
    review, _body, _repset = compute(record, recorded, plan, progress, past=past)
    others = other_views(library, set_id, plan)
    if others:
        review = together(review, others, record.load_kg, past)
    return review


def shown_set(
    library: Library,
    record: SetRecord,
    plan: Standard,
    past: Past,
    progress: Progress | None = None,
) -> ShownSet:
    """A set with everything that is drawn of it: the review with its other views, and its body.
    plan, past : see `plan_of` and `past_of`"""
    others = other_views(library, record.id, plan)
    track = library.track(record.id)
    review, body, repset = compute(record, track, plan, progress, ALL, past)
    if others:
        review = together(review, others, record.load_kg, past)
    return ShownSet(review, body, repset, past, others)


def keep_review(library: Library, set_id: int, review: Review) -> None:
    """Keep a computed review in place of the one before."""
    library.keep_review(set_id, __version__, *kept_forms(review))
