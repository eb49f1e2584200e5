"""What can be done with clients."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import TYPE_CHECKING, Any, Final

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.places.clients.place import ClientsPlace
    from guide_arc.app.services.program import Program

    Run = Callable[[Program, ClientsPlace], None]


def _some(place: ClientsPlace) -> bool:
    return place.model.sheet is not None


def _set(place: ClientsPlace) -> bool:
    return place.model.chosen_set is not None


def _place(act: Callable[[ClientsPlace], Any]) -> Run:
    return lambda _program, place: act(place)


P = "clients"
COMMANDS: Final = (
    Command(
        "clients.previous",
        "Previous client",
        "Clients",
        ("Up",),
        "The client above",
        _place(lambda p: p.model.step_client(-1)),
        P,
    ),
    Command(
        "clients.next",
        "Next client",
        "Clients",
        ("Down",),
        "The client below",
        _place(lambda p: p.model.step_client(1)),
        P,
    ),
    Command(
        "clients.earlier",
        "Earlier set",
        "Clients",
        ("Left",),
        "The set, week or month before",
        _place(lambda p: p.model.step_column(-1)),
        P,
        _set,
    ),
    Command(
        "clients.later",
        "Later set",
        "Clients",
        ("Right",),
        "The set, week or month after",
        _place(lambda p: p.model.step_column(1)),
        P,
        _set,
    ),
    Command(
        "clients.exercise",
        "Next exercise",
        "Clients",
        ("Tab",),
        "Another exercise of this client",
        _place(lambda p: p.model.step_exercise(1)),
        P,
        _some,
    ),
    Command(
        "clients.exercise_back",
        "Exercise before",
        "Clients",
        ("Shift+Tab",),
        "The exercise before this one",
        _place(lambda p: p.model.step_exercise(-1)),
        P,
        _some,
    ),
    Command(
        "clients.open",
        "Open the set",
        "Clients",
        ("Return", "Enter"),
        "Review the chosen set",
        _place(lambda p: p.open_chosen()),
        P,
        _set,
    ),
    Command(
        "clients.against",
        "Set against set",
        "Clients",
        ("X",),
        "Mark a set; on another one, both side by side",
        _place(lambda p: p.model.against()),
        P,
        _set,
    ),
    Command(
        "clients.grain",
        "Sets, weeks, months",
        "View",
        ("M",),
        "A column for each set, week or month",
        _place(lambda p: p.model.next_grain()),
        P,
        _some,
    ),
    Command(
        "clients.cue",
        "Next cue",
        "Clients",
        ("C",),
        "Go through the cues that were given",
        _place(lambda p: p.model.step_cue()),
        P,
        _some,
    ),
    Command(
        "clients.cue_sets",
        "Before and after the cue",
        "Clients",
        ("B",),
        "The set in which the chosen cue was given beside the one after it",
        _place(lambda p: p.model.before_and_after()),
        P,
        lambda p: _some(p) and p.model.chosen_cue is not None,
    ),
    Command(
        "clients.words",
        "Say it another way…",
        "Clients",
        ("W",),
        "Other words for the chosen cue",
        _place(lambda p: p.asking.ask_for_words()),
        P,
        lambda p: _some(p) and p.model.chosen_cue is not None,
    ),
    Command(
        "clients.known",
        "What is known…",
        "Clients",
        ("G",),
        "Goals, weak regions, sore places, weights, room",
        _place(lambda p: p.asking.ask_what_is_known()),
        P,
        _some,
    ),
    Command(
        "clients.tired",
        "Tired today",
        "Clients",
        (),
        "Poor sleep, or sore all over: two such days in a week make the next doses easier",
        _place(lambda p: p.model.tired_on(date.today())),
        P,
        _some,
    ),
    Command(
        "clients.new",
        "New client…",
        "Clients",
        ("N",),
        "Somebody new",
        _place(lambda p: p.asking.ask_for_new()),
        P,
    ),
    Command(
        "clients.join",
        "Join with another client…",
        "Clients",
        (),
        "Two names for one person become one client",
        _place(lambda p: p.asking.ask_to_join()),
        P,
        _some,
    ),
    Command(
        "clients.measure",
        "Measure earlier sets anew",
        "Clients",
        (),
        "Sets of an older program take part again",
        _place(lambda p: p.model.measure_untold()),
        P,
        lambda p: _some(p) and p.model.sheet.untold > 0,
    ),
    Command(
        "clients.report",
        "Progress report…",
        "File",
        ("Ctrl+P",),
        "This client's progress as PDF and HTML",
        _place(lambda p: p.asking.ask_for_report()),
        P,
        _some,
    ),
    Command(
        "clients.export",
        "Export everything of this client…",
        "File",
        (),
        "What is known, every set and the years, into a folder",
        _place(lambda p: p.asking.ask_to_export()),
        P,
        _some,
    ),
    Command(
        "clients.erase",
        "Erase this client…",
        "Edit",
        ("Delete",),
        "The client with every set; undo until the program closes",
        _place(lambda p: p.asking.ask_to_erase()),
        P,
        _some,
    ),
    Command(
        "clients.find",
        "Find a client",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by name",
        _place(lambda p: p.go_to_search()),
        P,
    ),
)
