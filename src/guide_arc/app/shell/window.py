"""The window: rail, header, the place that is shown, foot. What places are there is handed in."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Final

from PyQt6.QtCore import QEvent, QEventLoop, Qt, QTimer
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
    QInputDialog,
    QLabel,
    QMainWindow,
    QMessageBox,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.place import Door, Place
from guide_arc.app.contract.registry import Registry
from guide_arc.app.contract.signal import silence
from guide_arc.app.look import theme
from guide_arc.app.shell.about import ABOUT
from guide_arc.app.shell.actions import Actions
from guide_arc.app.shell.commands import commands_of
from guide_arc.app.shell.header import Header
from guide_arc.app.shell.hints_line import HintsLine
from guide_arc.app.shell.needs import ShellNeeds
from guide_arc.app.shell.not_kept import NotKept
from guide_arc.app.shell.work_bar import WorkBar
from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily
from guide_arc.library.errors import LostLibrary

with lazily():
    from guide_arc.app.shell.keys_page import KeysPage
    from guide_arc.app.shell.lost_library import LostLibraryBox
    from guide_arc.app.shell.restore_dialog import RestoreDialog
    from guide_arc.app.shell.trouble import Trouble
    from guide_arc.app.widgets.picker import Pick, pick_one


_SAID_MS: Final = 6000
_RAIL_WIDE: Final = 92
_LEAST: Final = (1080, 680)
_USUAL: Final = (1280, 800)


class Shell(QMainWindow):
    """One program in one window. The first of the doors is where it starts and where Escape
    leads."""

    def __init__(self, program: ShellNeeds, doors: Sequence[Door]) -> None:
        super().__init__()
        self.program = program
        self.mode: theme.Mode = program.settings.value("mode", "system")
        program.recolour(theme.apply(_application(), self.mode))
        self._trouble: Trouble | None = None
        self.registry = Registry(doors, self._visit_anew, commands_of(self, program))
        self.home = doors[0].about.id
        self.place_id = self.home
        self._could_not_be_opened = False
        self._missed = ""
        self._first_picture: list[Callable[[], None]] = []
        self.setWindowTitle("Guide Arc")
        self.setAcceptDrops(True)
        self.setMinimumSize(*_LEAST)
        self._build()
        self.acts = Actions(self, self.registry, self.run)
        self.actions_by_id = self.acts.by_id
        self.acts.make(self.home)
        self.after_first_picture(self.acts.make)
        self.after_first_picture(self.refresh)
        program.said.connect(self.say)
        program.completed.connect(lambda: program.searching.ended.connect(self._search_ended))
        program.went.connect(lambda to: self._go(self.registry.doors[to.place], to))
        program.refreshed.connect(self.refresh)
        program.broke.connect(self._tell)
        program.could_not_open.connect(self._could_not_open)
        program.keeper.trouble.connect(self.not_kept.show_trouble)
        program.library.opened.connect(lambda: QTimer.singleShot(0, self._make_early))
        geometry = program.settings.value("geometry")
        if geometry is None or not self.restoreGeometry(geometry):
            self.resize(*_USUAL)
            self.after_first_picture(self._fit_screen)
        hints = QApplication.styleHints()
        if hints is not None:
            hints.colorSchemeChanged.connect(self._desktop_changed)
        self._show_place(self.registry.doors[self.home])

    def _fit_screen(self) -> None:
        """Move and shrink the window so that all of it, with its frame, lies on the screen. How
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
        self.stack = QStackedWidget()
        self.header = Header(lambda id: self.actions_by_id.get(id))
        rail = QVBoxLayout()
        rail.setContentsMargins(0, 0, 0, 0)
        rail.setSpacing(2)
        self.rail: dict[str, QPushButton] = {}
        for door in self.registry.doors.values():
            entry = door.about
            button = QPushButton(entry.words)
            button.setObjectName("rail")
            button.setCheckable(True)
            button.setFixedWidth(_RAIL_WIDE)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setToolTip(f"{entry.help or entry.words} ({entry.key})")
            button.clicked.connect(lambda _on, id=entry.id: self._visit(id))
            self.rail[entry.id] = button
            rail.addWidget(button)
        rail.addStretch(1)
        middle = QHBoxLayout()
        middle.setSpacing(8)
        middle.addLayout(rail)
        middle.addWidget(self.stack, 1)
        self.hints, self.said = HintsLine(), QLabel()
        self.not_kept = NotKept(self.program.keeper, self.say, self.hints)
        self.said.setObjectName("heading")
        self.work = WorkBar(self.program.jobs)
        foot = QHBoxLayout()
        foot.setContentsMargins(0, 4, 0, 0)
        foot.setSpacing(14)
        foot.addWidget(self.hints, 1)
        for widget in (self.not_kept, self.work, self.said):
            foot.addWidget(widget)
        whole = QWidget()
        box = QVBoxLayout(whole)
        box.setContentsMargins(18, 4, 18, 8)
        box.setSpacing(4)
        box.addWidget(self.header)
        box.addLayout(middle, 1)
        box.addLayout(foot)
        self.setCentralWidget(whole)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.timeout.connect(self.said.clear)

    # Commands

    @property
    def places(self) -> dict[str, Place]:
        """The places that were made so far."""
        made = {id: door.place for id, door in self.registry.doors.items()}
        return {id: place for id, place in made.items() if place is not None}

    @property
    def place(self) -> Place:
        """The place that is shown."""
        return self.registry.doors[self.place_id].make()

    def run(self, command: Action) -> None:
        if not self.acts.usable(command, self.place_id):
            return
        try:
            command.run()
        except BadInput as error:
            self.say(str(error))
        self.refresh()

    def refresh(self) -> None:
        """Header, and which commands can be used now."""
        place = self.registry.doors[self.place_id].place
        if place is None:
            return
        self.acts.refresh(self.place_id)
        self.header.show_parts(place.header())
        history = self.program.history
        for id, words, verb in (
            ("edit.undo", history.undo_words, "Undo"),
            ("edit.redo", history.redo_words, "Redo"),
        ):
            self.actions_by_id[id].setText(f"{verb}: {words}" if words else verb)

    # Places

    def _go(self, door: Door, to: Destination | None = None) -> None:
        """Show a place; one that needs the core waits until that is loaded."""
        if door.about.needs_core and not self.program.library.ready:
            self.say("One moment…")
            self.program.library.when_ready(lambda: self._show_place(door, to))
        else:
            self._show_place(door, to)

    def _visit_anew(self, place: str) -> None:
        """The user goes to a place by its key: what was said in another one is not about it."""
        self.say("")
        self._go(self.registry.doors[place])

    def _visit(self, place: str) -> None:
        """The user goes to a place by its button: what was said in another one is not about it."""
        if place != self.place_id:
            self.say("")
        self._go(self.registry.doors[place])

    def _make_early(self) -> None:
        """The places that are to open at once."""
        for door in self.registry.doors.values():
            if door.about.early and self.program.library.ready:
                self._made(door)

    def _made(self, door: Door) -> QWidget:
        new = door.place is None
        made = door.make()
        assert isinstance(made, QWidget), f"{door.about.id} is no widget"
        if new:
            self.stack.addWidget(made)
        return made

    def _show_place(self, door: Door, to: Destination | None = None) -> None:
        shown = self._made(door)
        before = self.registry.doors[self.place_id].place
        if before is not None and before is not door.place:
            before.leave()
        self.place_id = door.about.id
        self.stack.setCurrentWidget(shown)
        door.enter(to)  # which may lead on: to a place without what it needs
        self.hints.show_hints(self.registry.doors[self.place_id].about.hints)
        for name, button in self.rail.items():
            button.setChecked(name == self.place_id)
        self.refresh()

    # Trouble

    def _tell(self, error: BaseException) -> None:
        if self._trouble is None:
            self._trouble = Trouble(self)
        self._trouble.tell(error)

    # The foot

    def say(self, words: str) -> None:
        """One sentence at the foot of the window, for a few seconds."""
        self.said.setText(words)
        self._quiet.start(_SAID_MS)

    def _search_ended(self, words: str) -> None:
        """Whoever looks at something else meanwhile is called, and told once they are back."""
        if not self.isActiveWindow():
            self._missed = words
            QApplication.alert(self)

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        if event is None or event.type() != QEvent.Type.ActivationChange:
            return
        if self.isActiveWindow() and self._missed:
            self.say(self._missed)
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

    # Help

    def show_palette(self) -> None:
        usable = [
            c
            for c in self.registry
            if self.acts.usable(c, self.place_id) and c.id != "help.palette"
        ]
        offered = [
            Pick(c.id, "   ".join((c.words.rstrip("…"), *c.keys[:1])), f"{c.help} {c.menu}")
            for c in usable
        ]
        by_id = {c.id: c for c in usable}
        pick_one(
            self,
            "All commands",
            "What do you want to do?",
            offered,
            "Do it",
            lambda id: self.run(by_id[id]),
        )

    def show_keys(self) -> None:
        page = KeysPage(self, self.registry, self.place_id)
        page.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        page.open()

    def show_about(self) -> None:
        box = QMessageBox(QMessageBox.Icon.NoIcon, "About and limits", ABOUT, parent=self)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    def ask_for_coach(self) -> None:
        dialog = QInputDialog(self)
        dialog.setWindowTitle("Your name")
        dialog.setLabelText("Decisions are stored under this name:")
        dialog.setTextValue(self.program.library.coach)
        dialog.textValueSelected.connect(self._name_coach)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _name_coach(self, name: str) -> None:
        if name.strip():
            self.program.library.name_coach(name.strip(), self.program.keeper.keep)

    # Opening and closing

    def _could_not_open(self, error: Exception) -> None:
        self._could_not_be_opened = True
        if isinstance(error, LostLibrary):
            LostLibraryBox(self, self.program, error, self._open_again, self._give_up).open()
        else:
            QMessageBox.critical(self, "Guide Arc", str(error))
            self._give_up()

    def _open_again(self) -> None:
        self._could_not_be_opened = False
        self.program.library.open_again()

    def _give_up(self) -> None:
        QApplication.exit(2)

    def ask_to_restore(self) -> None:
        dialog = RestoreDialog(self, self.program.library.folder)
        dialog.accepted.connect(lambda: self.program.library.bring_back(dialog.chosen))
        dialog.open()

    def wait_until_quiet(self) -> None:
        """Let the window work until no job runs and all is kept (for pictures and for closing)."""
        program, loop, poll, looks = self.program, QEventLoop(), QTimer(), [False, False]

        def look() -> None:  # twice: what is painted first may start a job
            opened = program.library.ready or self._could_not_be_opened
            kept = program.keeper.idle or bool(self.not_kept.text())
            looks[:] = looks[1], opened and not program.jobs.busy and kept
            if all(looks):
                loop.quit()

        poll.timeout.connect(look)
        poll.start(5)
        loop.exec()
        QApplication.processEvents()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        keeper = self.program.keeper
        if event is not None and not keeper.wait() and self._stay_open(keeper.pending):
            event.ignore()
            return
        if self.program.library.folder.is_dir():  # else it would be made again, with nothing in it
            self.program.settings.setValue("geometry", self.saveGeometry())
            self.program.settings.sync()
        self.place.leave()
        self._quiet.stop()
        for owner in (self.program, self.program.jobs, self.program.keeper):
            silence(owner)
        self.program.close()
        super().closeEvent(event)

    def _stay_open(self, pending: list[str]) -> bool:
        """Whether the coach would rather try again than lose what can't be kept."""
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Guide Arc",
            f"Not kept yet: {', '.join(pending)}.",
            parent=self,
        )
        box.setInformativeText("These changes could not be saved. If you close now, they are lost.")
        again = box.addButton("Keep trying", QMessageBox.ButtonRole.AcceptRole)
        elsewhere = box.addButton("Save it elsewhere…", QMessageBox.ButtonRole.ActionRole)
        box.addButton("Close anyway", QMessageBox.ButtonRole.DestructiveRole)
        box.setDefaultButton(again)
        box.exec()
        if box.clickedButton() is elsewhere:
            return not self.not_kept.save_elsewhere()
        return box.clickedButton() is again


def _application() -> QApplication:
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    return app
