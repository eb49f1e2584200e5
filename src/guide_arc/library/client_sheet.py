"""One client with one exercise as their page and their report show it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date

from guide_arc.core.model.client import Client
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.course import Course, course_of, says
from guide_arc.core.planning.cues import Followed, followed
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.felt_over_time import FeltSpan, felt_spans
from guide_arc.core.planning.history import History
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.racks import rack_of, usual_rack
from guide_arc.core.planning.rests import rest_words, rests_of
from guide_arc.core.planning.weeks import Measure, measures_of
from guide_arc.core.review.causes import felt_spots
from guide_arc.library.clients import Clients
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library
from guide_arc.library.training_logs import logged_sets, with_logged

Progress = Callable[[float], None]


@dataclass(frozen=True, eq=False)
class ClientSheet:
    """One client with one exercise, as their page shows it.

    exercises : (id, name, sets), the latest first; untold : sets still to be measured again
    own_words : (check, words) that replace its cue for this client
    """

    client: Client
    exercises: tuple[tuple[str, str, int], ...]
    plan: Standard | None
    course: Course
    sentences: tuple[str, ...]
    measures: tuple[Measure, ...]
    cues: tuple[Followed, ...]
    felt: tuple[FeltSpan, ...]
    untold: int
    own_words: tuple[tuple[str, str], ...] = ()
    next: Prescription | None = None

    @property
    def sets(self) -> tuple[KeptSet, ...]:
        return self.course.sets

    @property
    def span(self) -> tuple[date, date]:
        """The days that the page covers."""
        days = [s.on for s in self.sets] or [date.today()]
        return days[0], days[-1]


def read_sheet(
    library: Library, progress: Progress, name: str, standard: str | None = None
) -> ClientSheet:
    """A client's page. standard : None shows the exercise that was done last"""
    clients, catalogue = Clients(library), OwnStandards(library).catalogue()
    client = clients.client(name)
    done = [(id, count) for id, count in clients.exercises(name) if id in catalogue.ids()]
    exercises = tuple((id, catalogue.standard(id).name, count) for id, count in done)
    chosen = (
        standard
        if standard in [id for id, _, _ in exercises]
        else (exercises[0][0] if exercises else None)
    )
    untold = len(clients.untold(name))
    if chosen is None:
        return ClientSheet(
            client=client,
            exercises=exercises,
            plan=None,
            course=course_of(()),
            sentences=(),
            measures=(),
            cues=(),
            felt=(),
            untold=untold,
        )
    plan = catalogue.standard(chosen)
    sets = clients.sets(name, chosen)
    every = with_logged(sets, logged_sets(clients, name, chosen), {})
    progress(0.4)
    course = course_of(sets, assisted=plan.pull == "assisted")
    measures = measures_of(sets)
    progress(0.8)
    return ClientSheet(
        client=client,
        exercises=exercises,
        plan=plan,
        course=course,
        sentences=(*says(course), *_rests(sets, plan), *_not_filmed(every)),
        measures=measures,
        cues=followed(sets),
        felt=felt_spans(client, sets, felt_spots(plan)[0]),
        untold=untold,
        own_words=tuple(clients.own_words(name).items()),
        next=next_of(clients.equipped(client), plan, every),
    )


def _rests(sets: list[KeptSet], plan: Standard) -> tuple[str, ...]:
    """The measured rests of the last time, in a sentence, if the start times give them."""
    words = rest_words(rests_of(sets, plan.dose.rest_s))
    return (words,) if words else ()


def _not_filmed(sets: Sequence[KeptSet]) -> tuple[str, ...]:
    """How many sets count for the next dose though no recording shows them."""
    count = sum(s.logged is not None for s in sets)
    if not count:
        return ()
    what = "1 more set was" if count == 1 else f"{count} more sets were"
    return (f"{what} noted and not filmed (D opens the log).",)


def next_of(client: Client, plan: Standard, sets: Sequence[KeptSet]) -> Prescription | None:
    """The next dose of one exercise, done today at the earliest, from all that was done of it; None
    where nothing was."""
    known = [s for s in sets if s.on > date.min]
    if not known:
        return None
    lifted = known[-1].load_kg
    rack = rack_of(client, plan) or usual_rack(plan.dose.load_step_kg, lifted)
    done = tuple(s.done for s in known)
    return next_dose(
        History(
            plan,
            rack,
            done,
            # What has become sore since, and how long it has been, count; a library may contain
            # later days than the clock.
            max(date.today(), done[-1].on),
            plan.pull == "assisted",
            sore=client.sore,
            tired=client.tired,
            cleared=client.cleared,
        )
    )


def sheets_of(
    library: Library, name: str, standard: str | None, progress: Progress
) -> list[ClientSheet]:
    """A client's pages: of one exercise, or of every one with a set."""
    first = read_sheet(library, lambda _s: None, name, standard)
    if standard is not None:
        return [first]
    out = []
    for i, (id, _name, _count) in enumerate(first.exercises):
        progress(i / len(first.exercises))
        out.append(read_sheet(library, lambda _s: None, name, id))
    return out
