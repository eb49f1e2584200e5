"""The commands of the window itself: undo, look, help, closing."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.look.theme import Mode
    from guide_arc.app.shell.window import Shell


def commands_of(shell: Shell) -> tuple[Command, ...]:
    """undo and redo can be used where something was done or taken back"""
    history = shell.program.history

    def undo(_program: Any, _place: Any) -> None:
        shell.program.undo()

    def redo(_program: Any, _place: Any) -> None:
        shell.program.redo()

    def mode(name: Mode) -> Any:
        return lambda _program, _place: shell.set_mode(name)

    def act(name: str) -> Any:
        return lambda _program, _place: getattr(shell, name)()

    return (
        Command(
            "file.restore",
            "Restore a backup…",
            "File",
            (),
            "Bring the library back as it was on another day",
            act("ask_to_restore"),
            None,
            lambda _p: shell.program.library.ready and not shell.program.library.library.on_server,
        ),
        Command(
            "file.quit",
            "Quit",
            "File",
            ("Ctrl+Q",),
            "Close the program; everything is already saved",
            act("close_quietly"),
        ),
        Command(
            "edit.undo",
            "Undo",
            "Edit",
            ("Ctrl+Z",),
            "Take back what was done last, wherever it was",
            undo,
            None,
            lambda _p: history.undo_words is not None,
        ),
        Command(
            "edit.redo",
            "Redo",
            "Edit",
            ("Ctrl+Shift+Z", "Ctrl+Y"),
            "Do again what was taken back",
            redo,
            None,
            lambda _p: history.redo_words is not None,
        ),
        Command(
            "edit.coach",
            "Your name…",
            "Edit",
            (),
            "The name that decisions are stored under",
            act("ask_for_coach"),
        ),
        Command("view.light", "Light", "View", (), "Paper and ink", mode("light")),
        Command("view.dark", "Dark", "View", (), "For the evening", mode("dark")),
        Command(
            "view.system",
            "As the desktop",
            "View",
            (),
            "Light or dark as the desktop is",
            mode("system"),
        ),
        Command(
            "help.palette",
            "All commands…",
            "Help",
            ("Ctrl+K",),
            "Find any command by typing",
            act("show_palette"),
        ),
        Command(
            "help.keys", "Keys", "Help", ("F1", "?"), "All keys, place by place", act("show_keys")
        ),
        Command(
            "help.about",
            "About and limits",
            "Help",
            (),
            "What this program does not do",
            act("show_about"),
        ),
    )
