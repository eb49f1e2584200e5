"""What can be done with standards."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.places.standards.place import StandardsPlace


def _some(place: StandardsPlace) -> bool:
    return place.model.doc.plan is not None


def _own(place: StandardsPlace) -> bool:
    return _some(place) and place.model.doc.is_own


COMMANDS: Final[tuple[Command[StandardsPlace], ...]] = (
    Command(
        "standards.find",
        "Find a standard",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by muscle, kit, position or name",
        lambda p: p.finder.go_to_search(),
    ),
    Command(
        "standards.toggle",
        "Stop or move",
        "Standards",
        ("Space",),
        "Stop or start the figure",
        run=lambda p: p.stage.toggle(),
        when=_some,
    ),
    Command(
        "standards.next",
        "Next standard",
        "Standards",
        ("Ctrl+Down",),
        "The next standard",
        run=lambda p: p.model.show(p.model.doc.stepped(1)),
        when=_some,
    ),
    Command(
        "standards.previous",
        "Previous standard",
        "Standards",
        ("Ctrl+Up",),
        "The standard before",
        run=lambda p: p.model.show(p.model.doc.stepped(-1)),
        when=_some,
    ),
    Command(
        "standards.copy",
        "Copy as your own…",
        "Standards",
        ("Ctrl+D",),
        "A copy under a name of its own",
        run=lambda p: p.files.copy(),
        when=_some,
    ),
    Command(
        "standards.rename",
        "Rename…",
        "Standards",
        (),
        "Another name for a standard of yours",
        run=lambda p: p.files.rename(),
        when=_own,
    ),
    Command(
        "standards.revert",
        "Back to the shipped one",
        "Standards",
        (),
        "Take your changes, or your copy, out",
        run=lambda p: p.files.revert(),
        when=_own,
    ),
    Command(
        "standards.import",
        "Import standard…",
        "Standards",
        (),
        "Take a standard's file in as your own",
        lambda p: p.files.ask_to_import(),
    ),
    Command(
        "standards.export",
        "Export standard…",
        "Standards",
        (),
        "Save the chosen standard as a file",
        run=lambda p: p.files.ask_to_export(),
        when=_some,
    ),
    Command(
        "standards.film",
        "How to film…",
        "Standards",
        ("Ctrl+H",),
        "A sheet for the client: where to put the phone, and what a second view adds",
        run=lambda p: p.files.ask_to_write_filming(),
        when=_some,
    ),
    Command(
        "standards.turn",
        "Look from another side",
        "View",
        ("V",),
        "A quarter round",
        run=lambda p: p.stage.turn(),
        when=_some,
    ),
)
