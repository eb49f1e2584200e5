"""Computing a set's review and keeping it: the one way that window, demo and batch share."""

from __future__ import annotations

from collections.abc import Callable

from guide_arc import __version__
from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.review import Review
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.reps.segment import RepSet
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.review.trace import trace_of
from guide_arc.formats.review_json import review_document
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.records import SetRecord
from guide_arc.library.store import Library
from guide_arc.library.summary import summary_of
from guide_arc.library.traces import trace_text
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.tempo import parse_tempo

Progress = Callable[[float], None]


def compute(
    record: SetRecord,
    track: LandmarkTrack,
    catalogue: Catalogue,
    progress: Progress | None = None,
    also: tuple[str, ...] = (),
) -> tuple[Review, Body, RepSet]:
    """The review of a set as the library knows it. `also` names landmarks wanted for showing."""
    tempo = parse_tempo(record.tempo) if record.tempo else None
    chosen = catalogue.standard(record.standard, school_of(record, catalogue))
    return review_with_body(track, chosen, tempo, progress, also, record.notes.settings)


def school_of(record: SetRecord, catalogue: Catalogue) -> str:
    """The set's school, or the strict one where the coach's own file has no such school any more."""
    schools = [s.id for s in catalogue.standard(record.standard).schools]
    return record.school if record.school in schools else schools[0]


def review_and_keep(
    library: Library,
    set_id: int,
    track: LandmarkTrack | None = None,
    progress: Progress | None = None,
) -> Review:
    """Compute a set's review and keep it in the library. `track` spares reading it again."""
    recorded = track if track is not None else library.track(set_id)
    catalogue = OwnStandards(library).catalogue()
    review, _body, _repset = compute(library.record(set_id), recorded, catalogue, progress)
    keep_review(library, set_id, review)
    return review


def keep_review(library: Library, set_id: int, review: Review) -> None:
    """Keep a computed review in place of the one before."""
    library.keep_review(
        set_id,
        __version__,
        review_document(review),
        summary_of(review),
        trace_text(trace_of(review)),
    )
