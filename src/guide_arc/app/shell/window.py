"""The window: rail, header, the place that is shown, foot. What places are there is handed in."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Final

from PyQt6.QtCore import QEvent, QEventLoop, QTimer
from PyQt6.QtGui import (
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QPaintEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMainWindow,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.place import Door
from guide_arc.app.contract.registry import Registry
from guide_arc.app.contract.signal import silence
from guide_arc.app.look import theme
from guide_arc.app.shell.actions import Actions
from guide_arc.app.shell.commands import commands_of
from guide_arc.app.shell.foot import Foot
from guide_arc.app.shell.header import Header
from guide_arc.app.shell.needs import ShellNeeds
from guide_arc.app.shell.places_shown import PlacesShown
from guide_arc.app.shell.questions import ShellQuestions
from guide_arc.core.model.errors import BadInput

_LEAST: Final = (1080, 680)
_USUAL: Final = (1280, 800)


class Shell(QMainWindow):
    """One program in one window. The first of the doors is the start, and Escape leads there."""

    def __init__(self, program: ShellNeeds, doors: Sequence[Door]) -> None:
        super().__init__()
        self.program = program
        self.mode: theme.Mode = program.settings.value("mode", "system")
        program.recolour(theme.apply(_application(), self.mode))
        self.questions, self.foot = ShellQuestions(program, self), Foot(program)
        self.registry = Registry(
            doors,
            lambda place: self.shown.visit(place, again=True),
            commands_of(self, self.questions, program),
        )
        self.shown = PlacesShown(program, self.registry, self.foot.say, self._entered)
        self._missed = ""
        self._first_picture: list[Callable[[], None]] = []
        self.setWindowTitle("Guide Arc")
        self.setAcceptDrops(True)
        self.setMinimumSize(*_LEAST)
        self._build()
        self.acts = Actions(self, self.registry, self.run)
        self.actions_by_id = self.acts.by_id
        self.acts.make(self.shown.id)
        self.after_first_picture(self.acts.make)
        self.after_first_picture(self.refresh)
        program.said.connect(self.foot.say)
        program.completed.connect(lambda: program.searching.ended.connect(self._search_ended))
        program.went.connect(lambda to: self.shown.go(self.registry.doors[to.place], to))
        program.refreshed.connect(self.refresh)
        program.broke.connect(self.questions.tell)
        program.could_not_open.connect(self.questions.tell_not_open)
        program.keeper.trouble.connect(self.foot.not_kept.show_trouble)
        program.library.opened.connect(lambda: QTimer.singleShot(0, self.shown.make_early))
        geometry = program.settings.value("geometry")
        if geometry is None or not self.restoreGeometry(geometry):
            self.resize(*_USUAL)
            self.after_first_picture(self._fit_screen)
        hints = QApplication.styleHints()
        if hints is not None:
            hints.colorSchemeChanged.connect(self._desktop_changed)
        self.shown.show(self.shown.door)

    def _fit_screen(self) -> None:
        """Move and shrink the window so that all of it, with its frame, is on the screen. How
        wide the frame is is known only once the window is shown."""
        screen = self.screen()
        if screen is None or QApplication.platformName() in ("offscreen", "minimal"):
            return
        room, outside, inside = screen.availableGeometry(), self.frameGeometry(), self.geometry()
        beyond = outside.size() - inside.size()
        self.resize(inside.size().boundedTo(room.size() - beyond))
        outside = self.frameGeometry()
        self.move(
            max(min(outside.left(), room.right() - outside.width() + 1), room.left()),
            max(min(outside.top(), room.bottom() - outside.height() + 1), room.top()),
        )

    # Building

    def _build(self) -> None:
        self.header = Header(lambda id: self.actions_by_id.get(id))
        middle = QHBoxLayout()
        middle.setSpacing(8)
        middle.addLayout(self.shown.rail())
        middle.addWidget(self.shown.stack, 1)
        whole = QWidget()
        box = QVBoxLayout(whole)
        box.setContentsMargins(18, 4, 18, 8)
        box.setSpacing(4)
        box.addWidget(self.header)
        box.addLayout(middle, 1)
        box.addWidget(self.foot)
        self.setCentralWidget(whole)

    # Commands

    def run(self, command: Action) -> None:
        if not self.acts.usable(command, self.shown.id):
            return
        try:
            command.run()
        except BadInput as error:
            self.foot.say(str(error))
        self.refresh()

    def show_palette(self) -> None:
        usable = [c for c in self.registry if self.acts.usable(c, self.shown.id)]
        self.questions.show_palette([c for c in usable if c.id != "help.palette"], self.run)

    def show_keys(self) -> None:
        self.questions.show_keys(self.registry, self.shown.id)

    def _entered(self) -> None:
        """Another place is shown, or the same one again."""
        self.foot.hints.show_hints(self.shown.door.about.hints)
        self.refresh()

    def refresh(self) -> None:
        """Header, and which commands can be used now."""
        place = self.shown.door.place
        if place is None:
            return
        self.acts.refresh(self.shown.id)
        self.header.show_parts(place.header())
        history = self.program.history
        for id, words, verb in (
            ("edit.undo", history.undo_words, "Undo"),
            ("edit.redo", history.redo_words, "Redo"),
        ):
            self.actions_by_id[id].setText(f"{verb}: {words}" if words else verb)

    def _search_ended(self, words: str) -> None:
        """If another window has the focus, this one asks for attention, and reports when the user
        is back."""
        if not self.isActiveWindow():
            self._missed = words
            QApplication.alert(self)

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        if event is None or event.type() != QEvent.Type.ActivationChange:
            return
        if self.isActiveWindow() and self._missed:
            self.foot.say(self._missed)
            self._missed = ""

    # Look

    def set_mode(self, mode: theme.Mode) -> None:
        self.mode = mode
        self.program.settings.setValue("mode", mode)
        self.program.recolour(theme.apply(_application(), mode))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.refresh()

    def _desktop_changed(self) -> None:
        """The desktop went light or dark."""
        if self.mode == "system":
            self.set_mode("system")

    # The first picture

    def after_first_picture(self, then: Callable[[], None]) -> None:
        """Call once the window has been painted."""
        self._first_picture.append(then)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        waiting, self._first_picture = self._first_picture, []
        for then in waiting:
            QTimer.singleShot(0, then)

    # Files dropped anywhere

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        data = event.mimeData() if event is not None else None
        if event is not None and data is not None and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        data = event.mimeData() if event is not None else None
        if event is None or data is None:
            return
        paths = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]
        event.acceptProposedAction()
        # The drop must end before a dialog opens.
        QTimer.singleShot(0, lambda: self._take_in(paths))

    def _take_in(self, paths: list[Path]) -> None:
        self.program.library.when_ready(lambda: self.program.intake.take_in(paths))

    # Closing

    def wait_until_quiet(self) -> None:
        """Let the window work until no job runs and all is kept (for pictures and for closing)."""
        program, loop, poll, looks = self.program, QEventLoop(), QTimer(), [False, False]

        def look() -> None:  # twice: what is painted first may start a job
            opened = program.library.ready or self.questions.could_not_be_opened
            kept = program.keeper.idle or bool(self.foot.not_kept.text())
            looks[:] = looks[1], opened and not program.jobs.busy and kept
            if all(looks):
                loop.quit()

        poll.timeout.connect(look)
        poll.start(5)
        loop.exec()
        QApplication.processEvents()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        keeper = self.program.keeper
        elsewhere = self.foot.not_kept.save_elsewhere
        if (
            event is not None
            and not keeper.wait()
            and self.questions.stay_open(keeper.pending, elsewhere)
        ):
            event.ignore()
            return
        if self.program.library.folder.is_dir():  # otherwise it would be created again, empty
            self.program.settings.setValue("geometry", self.saveGeometry())
            self.program.settings.sync()
        if self.shown.door.place is not None:
            self.shown.door.place.leave()
        self.foot.fall_silent()
        for owner in (self.program, self.program.jobs, self.program.keeper):
            silence(owner)
        self.program.close()
        super().closeEvent(event)


def _application() -> QApplication:
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    return app
