"""The commands of the window itself: undo, look, help, closing."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Protocol

from guide_arc.app.contract.command import Action
from guide_arc.app.shell.needs import ShellNeeds

if TYPE_CHECKING:
    from guide_arc.app.look.theme import Mode
    from guide_arc.app.shell.questions import ShellQuestions


class Window(Protocol):
    """The window's own actions."""

    def close(self) -> bool: ...

    def set_mode(self, mode: Mode) -> None: ...

    def show_palette(self) -> None: ...

    def show_keys(self) -> None: ...


def commands_of(
    shell: Window, questions: ShellQuestions, program: ShellNeeds
) -> tuple[Action, ...]:
    """undo and redo can be used where something was done or taken back"""
    history = program.history
    return (
        _action(
            "file.restore",
            "Restore a backup…",
            "File",
            keys=(),
            help="Bring the library back as it was on another day",
            run=questions.ask_to_restore,
            usable=lambda: program.library.ready and not program.library.library.on_server,
        ),
        _action(
            "file.quit",
            "Quit",
            "File",
            ("Ctrl+Q",),
            "Close the program; everything is already saved",
            shell.close,
        ),
        _action(
            "edit.undo",
            "Undo",
            "Edit",
            keys=("Ctrl+Z",),
            help="Take back what was done last, wherever it was",
            run=program.undo,
            usable=lambda: history.undo_words is not None,
        ),
        _action(
            "edit.redo",
            "Redo",
            "Edit",
            keys=("Ctrl+Shift+Z", "Ctrl+Y"),
            help="Do again what was taken back",
            run=program.redo,
            usable=lambda: history.redo_words is not None,
        ),
        _action(
            "edit.coach",
            "Your name…",
            "Edit",
            (),
            "The name that decisions are stored under",
            questions.ask_for_coach,
        ),
        _action(
            "view.light", "Light", "View", (), "Paper and ink", partial(shell.set_mode, "light")
        ),
        _action(
            "view.dark", "Dark", "View", (), "For the evening", partial(shell.set_mode, "dark")
        ),
        _action(
            "view.system",
            "As the desktop",
            "View",
            (),
            "Light or dark as the desktop is",
            partial(shell.set_mode, "system"),
        ),
        _action(
            "help.palette",
            "All commands…",
            "Help",
            ("Ctrl+K",),
            "Find any command by typing",
            shell.show_palette,
        ),
        _action(
            "help.keys", "Keys", "Help", ("F1", "?"), "All keys, place by place", shell.show_keys
        ),
        _action(
            "help.about",
            "About and limits",
            "Help",
            (),
            "What this program does not do",
            questions.show_about,
        ),
    )


def _always() -> bool:
    return True


def _action(
    id: str,
    words: str,
    menu: str,
    keys: tuple[str, ...],
    help: str,
    run: Callable[[], object],
    usable: Callable[[], bool] = _always,
) -> Action:
    return Action(id, words, menu, keys, help, run=run, usable=usable)
