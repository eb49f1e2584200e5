"""What can be done with standards."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Final

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.places.standards.place import StandardsPlace
    from guide_arc.app.services.program import Program

    Run = Callable[[Program, StandardsPlace], None]


def _some(place: StandardsPlace) -> bool:
    return place.model.plan is not None


def _own(place: StandardsPlace) -> bool:
    return _some(place) and place.model.is_own


def _place(act: Callable[[StandardsPlace], Any]) -> Run:
    return lambda _program, place: act(place)


P = "standards"
COMMANDS: Final = (
    Command(
        "standards.find",
        "Find a standard",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by muscle, kit, position or name",
        _place(lambda p: p.go_to_search()),
        P,
    ),
    Command(
        "standards.toggle",
        "Stop or move",
        "Standards",
        ("Space",),
        "Let the figure stand still, or move again",
        _place(lambda p: p.toggle()),
        P,
        _some,
    ),
    Command(
        "standards.next",
        "Next standard",
        "Standards",
        ("Ctrl+Down",),
        "The next standard",
        _place(lambda p: p.model.step(1)),
        P,
        _some,
    ),
    Command(
        "standards.previous",
        "Previous standard",
        "Standards",
        ("Ctrl+Up",),
        "The standard before",
        _place(lambda p: p.model.step(-1)),
        P,
        _some,
    ),
    Command(
        "standards.copy",
        "Copy as your own…",
        "Standards",
        ("Ctrl+D",),
        "A copy under a name of its own",
        _place(lambda p: p.files.copy()),
        P,
        _some,
    ),
    Command(
        "standards.rename",
        "Rename…",
        "Standards",
        (),
        "Another name for a standard of yours",
        _place(lambda p: p.files.rename()),
        P,
        _own,
    ),
    Command(
        "standards.revert",
        "Back to the shipped one",
        "Standards",
        (),
        "Take your changes, or your copy, out",
        _place(lambda p: p.files.revert()),
        P,
        _own,
    ),
    Command(
        "standards.import",
        "Import standard…",
        "Standards",
        (),
        "Take a standard's file in as your own",
        _place(lambda p: p.files.ask_to_import()),
        P,
    ),
    Command(
        "standards.export",
        "Export standard…",
        "Standards",
        (),
        "Save the chosen standard as a file",
        _place(lambda p: p.files.ask_to_export()),
        P,
        _some,
    ),
    Command(
        "standards.film",
        "How to film…",
        "Standards",
        ("Ctrl+H",),
        "A sheet for the client: where the phone stands, and what a second view adds",
        _place(lambda p: p.files.ask_to_write_filming()),
        P,
        _some,
    ),
    Command(
        "standards.turn",
        "Look from another side",
        "View",
        ("V",),
        "A quarter round",
        _place(lambda p: p.turn()),
        P,
        _some,
    ),
)
