"""What can be done in the queue, and what of taking sets in can be done everywhere."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.places.queue.needs import QueueNeeds
    from guide_arc.app.places.queue.place import QueuePlace


def _some(place: QueuePlace) -> bool:
    return place.sets.doc.chosen_row is not None


def _clip(place: QueuePlace) -> bool:
    row = place.sets.doc.chosen_row
    return row is not None and row.has_clip


def _mark(place: QueuePlace) -> None:
    chosen = place.sets.doc.chosen
    if chosen is not None:
        place.program.library.when_ready(lambda: place.program.measuring.open_marks(chosen))


def _when_ready(act: Callable[[QueuePlace], None]) -> Callable[[QueuePlace], None]:
    """Something that the place does once the library is open."""
    return lambda place: place.program.library.when_ready(lambda: act(place))


def _add(needs: QueueNeeds) -> None:
    needs.library.when_ready(lambda: needs.intake.ask_for_files())


def _drop_folder(needs: QueueNeeds) -> None:
    needs.library.when_ready(lambda: needs.intake.needs_folder.emit())


def _dropped(needs: QueueNeeds) -> None:
    needs.library.when_ready(lambda: needs.drop_folder.ask())


def _quarantine(needs: QueueNeeds) -> None:
    needs.library.when_ready(lambda: needs.intake.ask_for_quarantine())


def _paste_answer(needs: QueueNeeds) -> None:
    needs.library.when_ready(lambda: needs.intake.needs_clipboard.emit())


EVERYWHERE: Final[tuple[Command[QueueNeeds], ...]] = (
    Command(
        "file.add",
        "Add sets…",
        "File",
        ("Ctrl+O",),
        "Take clips, landmark tracks and whole sets in",
        _add,
    ),
    Command(
        "file.drop-folder",
        "Drop folder…",
        "File",
        (),
        "Watch a folder to which clients send their sets",
        _drop_folder,
    ),
    Command(
        "file.dropped",
        "What came in the drop folder…",
        "File",
        ("Ctrl+Shift+O",),
        "Assign the files whose client is not known",
        _dropped,
    ),
    Command(
        "file.paste-answer",
        "Answer from the clipboard",
        "File",
        ("Ctrl+Shift+V",),
        "Take in a client's answer that was copied from a message",
        _paste_answer,
    ),
    Command(
        "file.quarantine",
        "Files set aside…",
        "File",
        ("Ctrl+Shift+L",),
        "Files that could not be imported and sets that could not be reviewed: why, and try again",
        _quarantine,
    ),
)

COMMANDS: Final[tuple[Command[QueuePlace], ...]] = (
    Command(
        "queue.details",
        "Set details…",
        "File",
        ("Ctrl+I",),
        "Correct client, exercise, school, tempo or load",
        run=lambda p: p.asking.edit_details(),
        when=_some,
    ),
    Command(
        "queue.erase",
        "Erase set…",
        "File",
        ("Delete",),
        "Take a set out of the library with its recording",
        run=lambda p: p.asking.ask_to_erase(),
        when=_some,
    ),
    Command(
        "queue.clean",
        "Review clean sets in one go…",
        "Edit",
        ("Ctrl+Shift+Return",),
        "Look over the sets in which nothing is off, and mark them reviewed",
        _when_ready(lambda p: p.asking.ask_about_clean()),
    ),
    Command(
        "queue.evening",
        "What was said today…",
        "File",
        ("Ctrl+Shift+S",),
        "The evening's cues, notes and next doses, client by client",
        _when_ready(lambda p: p.asking.show_evening()),
    ),
    Command(
        "queue.follow-up",
        "Follow up…",
        "Edit",
        ("Ctrl+U",),
        "Keep something to come back to, for this set's client",
        run=_when_ready(lambda p: p.asking.ask_for_follow_up()),
        when=_some,
    ),
    Command(
        "queue.follow-ups",
        "Follow-ups…",
        "Edit",
        ("Ctrl+Shift+U",),
        "What is due and what is coming: done, or put off",
        _when_ready(lambda p: p.asking.show_follow_ups()),
    ),
    Command(
        "queue.find",
        "Find a set",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by client, exercise, date or what is off",
        lambda p: p.go_to_search(),
    ),
    Command(
        "queue.clear",
        "Show all again",
        "Edit",
        ("Escape",),
        "Clear the search",
        lambda p: p.clear_search(),
    ),
    Command(
        "queue.coach",
        "Sets of the next coach",
        "Edit",
        ("C",),
        "Show the sets of one coach's clients, the next one each time, then all",
        run=lambda p: p.coach.show_next(),
        when=lambda p: p.coach.count() > 1,
    ),
    Command(
        "queue.open",
        "Open set",
        "Go",
        ("Return",),
        "Review the chosen set",
        run=lambda p: p.open_chosen(),
        when=_some,
    ),
    Command(
        "queue.mark",
        "Mark the clip",
        "Go",
        ("F5",),
        "Joints and kit on the clip's picture, scale and vertical",
        run=_mark,
        when=_clip,
    ),
)
