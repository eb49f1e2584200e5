"""What can be done with clients."""

from __future__ import annotations

from datetime import date
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.places.clients.place import ClientsPlace


def _some(place: ClientsPlace) -> bool:
    return place.model.doc.sheet is not None


def _set(place: ClientsPlace) -> bool:
    return place.model.doc.chosen_set is not None


def _earlier(place: ClientsPlace) -> bool:
    return place.model.doc.sheet is not None and place.model.doc.sheet.untold > 0


COMMANDS: Final[tuple[Command[ClientsPlace], ...]] = (
    Command(
        "clients.previous",
        "Previous client",
        "Clients",
        ("Up",),
        "The client above",
        lambda p: p.model.choose(p.model.doc.stepped_client(-1)),
    ),
    Command(
        "clients.next",
        "Next client",
        "Clients",
        ("Down",),
        "The client below",
        lambda p: p.model.choose(p.model.doc.stepped_client(1)),
    ),
    Command(
        "clients.earlier",
        "Earlier set",
        "Clients",
        ("Left",),
        "The set, week or month before",
        run=lambda p: p.model.show(p.model.doc.stepped_column(-1)),
        when=_set,
    ),
    Command(
        "clients.later",
        "Later set",
        "Clients",
        ("Right",),
        "The set, week or month after",
        run=lambda p: p.model.show(p.model.doc.stepped_column(1)),
        when=_set,
    ),
    Command(
        "clients.exercise",
        "Next exercise",
        "Clients",
        ("Tab",),
        "Another exercise of this client",
        run=lambda p: p.model.step_exercise(1),
        when=_some,
    ),
    Command(
        "clients.exercise_back",
        "Exercise before",
        "Clients",
        ("Shift+Tab",),
        "The exercise before this one",
        run=lambda p: p.model.step_exercise(-1),
        when=_some,
    ),
    Command(
        "clients.open",
        "Open the set",
        "Clients",
        ("Return", "Enter"),
        "Review the chosen set",
        run=lambda p: p.open_chosen(),
        when=_set,
    ),
    Command(
        "clients.against",
        "Set against set",
        "Clients",
        ("X",),
        "Mark a set; on another one, both side by side",
        run=lambda p: p.model.against(),
        when=_set,
    ),
    Command(
        "clients.grain",
        "Sets, weeks, months",
        "View",
        ("M",),
        "A column for each set, week or month",
        run=lambda p: p.model.show(p.model.doc.next_grain()),
        when=_some,
    ),
    Command(
        "clients.cue",
        "Next cue",
        "Clients",
        ("C",),
        "Go through the cues that were given",
        run=lambda p: p.model.show(p.model.doc.next_cue()),
        when=_some,
    ),
    Command(
        "clients.cue_sets",
        "Before and after the cue",
        "Clients",
        ("B",),
        "Compare the set in which the chosen cue was given with the one after it",
        run=lambda p: p.model.before_and_after(),
        when=lambda p: _some(p) and p.model.doc.chosen_cue is not None,
    ),
    Command(
        "clients.words",
        "Say it another way…",
        "Clients",
        ("W",),
        "Other words for the chosen cue",
        run=lambda p: p.asking.ask_for_words(),
        when=lambda p: _some(p) and p.model.doc.chosen_cue is not None,
    ),
    Command(
        "clients.known",
        "What is known…",
        "Clients",
        ("G",),
        "Goals, weak regions, sore places, weights, room",
        run=lambda p: p.asking.ask_what_is_known(),
        when=_some,
    ),
    Command(
        "clients.log",
        "Log what was done…",
        "Clients",
        ("D",),
        "Sets that were not filmed: weight, reps, reps in reserve, what was felt",
        run=lambda p: p.asking.ask_for_log(),
        when=_some,
    ),
    Command(
        "clients.tired",
        "Tired today",
        "Clients",
        (),
        "Poor sleep, or sore all over: two such days in a week make the next doses easier",
        run=lambda p: p.model.tired_on(date.today()),
        when=_some,
    ),
    Command(
        "clients.cleared",
        "Cleared by a clinician…",
        "Clients",
        (),
        "Note that a licensed clinician cleared what hurt: the next doses may rise again",
        run=lambda p: p.asking.ask_what_was_cleared(),
        when=_some,
    ),
    Command(
        "clients.new",
        "New client…",
        "Clients",
        ("N",),
        "Somebody new",
        lambda p: p.asking.ask_for_new(),
    ),
    Command(
        "clients.join",
        "Join with another client…",
        "Clients",
        (),
        "Two names for one person become one client",
        run=lambda p: p.asking.ask_to_join(),
        when=_some,
    ),
    Command(
        "clients.measure",
        "Measure earlier sets again",
        "Clients",
        (),
        "Sets of an older program take part again",
        run=lambda p: p.measure_untold(),
        when=_earlier,
    ),
    Command(
        "clients.report",
        "Progress report…",
        "File",
        ("Ctrl+P",),
        "This client's progress as PDF and HTML",
        run=lambda p: p.asking.ask_for_report(),
        when=_some,
    ),
    Command(
        "clients.export",
        "Export everything of this client…",
        "File",
        (),
        "What is known, every set and the years, into a folder",
        run=lambda p: p.asking.ask_to_export(),
        when=_some,
    ),
    Command(
        "clients.erase",
        "Erase this client…",
        "Edit",
        ("Delete",),
        "The client with every set; undo until the program closes",
        run=lambda p: p.asking.ask_to_erase(),
        when=_some,
    ),
    Command(
        "clients.find",
        "Find a client",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by name",
        lambda p: p.go_to_search(),
    ),
)
