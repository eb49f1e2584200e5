"""What can be done in the queue, and what of taking sets in can be done everywhere."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Final

from guide_arc.app.contract.command import Command
from guide_arc.app.contract.job import resolve

if TYPE_CHECKING:
    from guide_arc.app.places.queue.place import QueuePlace
    from guide_arc.app.services.program import Program


def _some(place: QueuePlace) -> bool:
    return place.sets.chosen_row is not None


def _clip(place: QueuePlace) -> bool:
    row = place.sets.chosen_row
    return row is not None and row.has_clip


def add(program: Program, _place: Any) -> None:
    program.library.when_ready(lambda: program.intake.ask_for_files())


def drop_folder(program: Program, _place: Any) -> None:
    program.library.when_ready(lambda: program.intake.needs_folder.emit())


def dropped(program: Program, _place: Any) -> None:
    program.library.when_ready(lambda: program.drop_folder.ask())


def find(_program: Program, place: QueuePlace) -> None:
    place.go_to_search()


def open_(program: Program, place: QueuePlace) -> None:
    place.open_chosen()


def mark(program: Program, place: QueuePlace) -> None:
    chosen = place.sets.chosen
    if chosen is not None:
        program.library.when_ready(lambda: program.measuring.open_marks(chosen))


def details(_program: Program, place: QueuePlace) -> None:
    place.edit_details()


def erase(_program: Program, place: QueuePlace) -> None:
    place.ask_to_erase()


def clean(program: Program, place: QueuePlace) -> None:
    program.library.when_ready(place.ask_about_clean)


def evening(program: Program, place: QueuePlace) -> None:
    program.library.when_ready(place.show_evening)


def follow_ups(program: Program, place: QueuePlace) -> None:
    program.library.when_ready(place.show_follow_ups)


def follow_up(program: Program, place: QueuePlace) -> None:
    program.library.when_ready(place.ask_for_follow_up)


def laid(program: Program, place: Any) -> None:
    show = resolve("guide_arc.app.places.queue.laid_dialog:show_laid")
    program.library.when_ready(lambda: show(program, place))


def clear(_program: Program, place: QueuePlace) -> None:
    place.clear_search()


COMMANDS: Final = (
    Command(
        "file.add",
        "Add sets…",
        "File",
        ("Ctrl+O",),
        "Take clips, landmark tracks and whole sets in",
        add,
    ),
    Command(
        "file.drop-folder",
        "Drop folder…",
        "File",
        (),
        "Watch a folder to which clients send their sets",
        drop_folder,
    ),
    Command(
        "file.dropped",
        "What came in the drop folder…",
        "File",
        ("Ctrl+Shift+O",),
        "Say whose the files are that do not say it themselves",
        dropped,
    ),
    Command(
        "file.laid",
        "What is set aside…",
        "File",
        ("Ctrl+Shift+L",),
        "Files that could not come in and sets that could not be reviewed: why, and once more",
        laid,
    ),
    Command(
        "queue.details",
        "Set details…",
        "File",
        ("Ctrl+I",),
        "Correct client, exercise, school, tempo or load",
        details,
        "queue",
        _some,
    ),
    Command(
        "queue.erase",
        "Erase set…",
        "File",
        ("Delete",),
        "Take a set out of the library with its recording",
        erase,
        "queue",
        _some,
    ),
    Command(
        "queue.clean",
        "Review clean sets in one go…",
        "Edit",
        ("Ctrl+Shift+Return",),
        "Look over the sets in which nothing is off, and mark them reviewed",
        clean,
        "queue",
    ),
    Command(
        "queue.evening",
        "What was said today…",
        "File",
        ("Ctrl+Shift+S",),
        "The evening's cues, notes and next doses, client by client",
        evening,
        "queue",
    ),
    Command(
        "queue.follow-up",
        "Follow up…",
        "Edit",
        ("Ctrl+U",),
        "Keep something to come back to, for this set's client",
        follow_up,
        "queue",
        _some,
    ),
    Command(
        "queue.follow-ups",
        "Follow-ups…",
        "Edit",
        ("Ctrl+Shift+U",),
        "What is due and what is coming: done, or put off",
        follow_ups,
        "queue",
    ),
    Command(
        "queue.find",
        "Find a set",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by client, exercise, date or what is off",
        find,
        "queue",
    ),
    Command(
        "queue.clear", "Show all again", "Edit", ("Escape",), "Clear the search", clear, "queue"
    ),
    Command(
        "queue.open", "Open set", "Go", ("Return",), "Review the chosen set", open_, "queue", _some
    ),
    Command(
        "queue.mark",
        "Mark the clip",
        "Go",
        ("F5",),
        "Joints and kit on the clip's picture, scale and vertical",
        mark,
        "queue",
        _clip,
    ),
)
