"""The main window: the rail, the header, the places, and what the commands do."""

from __future__ import annotations

import getpass
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEventLoop, QSettings, Qt, QTimer, QUrl
from PyQt6.QtGui import (
    QAction,
    QCloseEvent,
    QDesktopServices,
    QKeySequence,
)
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMessageBox,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.care import CARE
from guide_arc.app.commands.palette import KeysPage, Palette
from guide_arc.app.commands.table import COMMANDS, MENUS, Command
from guide_arc.app.garbage import WindowThreadGarbage
from guide_arc.app.jobs import Job, JobRunner
from guide_arc.app.look import theme
from guide_arc.app.places.queue import QueuePlace
from guide_arc.app.places.review import ReviewPlace
from guide_arc.app.viewmodels.queue import QueueModel
from guide_arc.app.viewmodels.review import ReviewModel
from guide_arc.app.window_export import WindowWithExport
from guide_arc.app.window_sets import LibraryEdit, PlaceName
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.review import Review
from guide_arc.drawings.measured import Measured
from guide_arc.drawings.words import day_words
from guide_arc.library.records import SetNotes, SetRecord
from guide_arc.library.store import Library

_KEPT_MEASURED = 4


class Window(WindowWithExport):
    """One library in one window."""

    def __init__(self, library: Library, settings: QSettings) -> None:
        super().__init__()
        self.library, self.settings = library, settings
        self.jobs = JobRunner(self)
        self._garbage = WindowThreadGarbage(self)
        self.queue: QueueModel = QueueModel(
            lambda words, state: library.queue(words=words, state=state)
        )
        self.review: ReviewModel = ReviewModel(
            library.keep_notes, library.setting("coach") or _login_name(), self._keep_review
        )
        self.place: PlaceName = "queue"
        self._measured: OrderedDict[int, tuple[SetRecord, Measured]] = OrderedDict()
        self._opening: int | None = None
        self._adding: Job | None = None
        self._library_edits: list[LibraryEdit] = []
        self.mode: theme.Mode = settings.value("mode", "system")
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        self.colours = theme.apply(app, self.mode)
        self.setWindowTitle("Guide Arc")
        self.setAcceptDrops(True)
        self.setMinimumSize(1080, 680)
        self._build()
        self.actions_by_id = self._make_actions()
        self._connect()
        geometry = settings.value("geometry")
        if geometry is not None:
            self.restoreGeometry(geometry)
        else:
            self.resize(1280, 800)
        self.queue.refresh()
        self._came_back()
        self._refresh()
        self.review_place.clip_of = self.clip_of
        QTimer.singleShot(0, self._review_missing)
        QTimer.singleShot(0, self.go_on_with_clips)
        self.watch_drop_folder()

    # Building

    def _build(self) -> None:
        self.queue_place = QueuePlace(self.queue, self.colours)
        self.review_place = ReviewPlace(self.review, self.colours)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.queue_place)
        self.stack.addWidget(self.review_place)
        self.title = QLabel()
        self.title.setObjectName("title")
        self.what = QLabel()
        self.school = QLabel()
        self.school.setObjectName("guide")
        self.load = QLabel()
        self.when = QLabel()
        self.when.setObjectName("muted")
        self.position = QLabel()
        self.position.setObjectName("muted")
        self.before, self.after = QPushButton("‹"), QPushButton("›")
        for button, tip, by in (
            (self.before, "Previous set (Page Up)", -1),
            (self.after, "Next set (Page Down)", 1),
        ):
            button.setObjectName("flat")
            button.setToolTip(tip)
            button.setAccessibleName(tip)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _on, b=by: self.step_set(b))
        header = QHBoxLayout()
        header.setContentsMargins(0, 2, 0, 6)
        header.setSpacing(16)
        for label in (self.title, self.what, self.school, self.load, self.when):
            header.addWidget(label)
        header.addStretch(1)
        for widget in (self.position, self.before, self.after):
            header.addWidget(widget)
        rail = QVBoxLayout()
        rail.setContentsMargins(0, 0, 0, 0)
        rail.setSpacing(2)
        self.rail: dict[PlaceName, QPushButton] = {}
        for name, words in (
            ("queue", "Queue"),
            ("review", "Review"),
            ("standards", "Standards"),
        ):
            button = QPushButton(words)
            button.setObjectName("rail")
            button.setCheckable(True)
            button.setFixedWidth(92)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            self.rail[name] = button  # type: ignore[index]
            rail.addWidget(button)
        self.rail["queue"].clicked.connect(self.go_queue)
        self.rail["review"].clicked.connect(self.go_review)
        self.rail["standards"].clicked.connect(self.go_standards)
        rail.addStretch(1)
        middle = QHBoxLayout()
        middle.setSpacing(8)
        middle.addLayout(rail)
        middle.addWidget(self.stack, 1)
        self.hints = QLabel()
        self.hints.setObjectName("hint")
        self.said = QLabel()
        self.said.setObjectName("heading")
        foot = QHBoxLayout()
        foot.setContentsMargins(0, 4, 0, 0)
        foot.addWidget(self.hints)
        foot.addStretch(1)
        self.work = QWidget()
        self.work_bar, self.work_stop = QProgressBar(), QPushButton("Stop")
        self.work_bar.setFixedWidth(260)
        self.work_stop.setObjectName("small")
        self.work_stop.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.work_stop.clicked.connect(self.stop_work)
        row = QHBoxLayout(self.work)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.work_bar)
        row.addWidget(self.work_stop)
        self.work.hide()
        foot.addWidget(self.work)
        foot.addWidget(self.said)
        whole = QWidget()
        box = QVBoxLayout(whole)
        box.setContentsMargins(18, 4, 18, 8)
        box.setSpacing(4)
        box.addLayout(header)
        box.addLayout(middle, 1)
        box.addLayout(foot)
        self.setCentralWidget(whole)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.timeout.connect(self.said.clear)

    def _make_actions(self) -> dict[str, QAction]:
        bar = self.menuBar()
        assert bar is not None
        menus = {name: bar.addMenu(name) for name in MENUS}
        out: dict[str, QAction] = {}
        for command in COMMANDS:
            action = QAction(command.words, self)
            action.setShortcuts([QKeySequence(k) for k in command.keys])
            action.setToolTip(command.help)
            action.triggered.connect(lambda _on=False, c=command: self._run(c))
            menu = menus[command.menu]
            assert menu is not None
            menu.addAction(action)
            self.addAction(action)
            out[command.id] = action
        return out

    def _connect(self) -> None:
        self.queue_place.opened.connect(self.open_set)
        self.queue_place.add_asked.connect(self.ask_for_files)
        self.queue_place.stop_asked.connect(self._stop_adding)
        self.queue.changed.connect(self._refresh)
        self.queue.chosen_changed.connect(self._refresh)
        self.review.opened.connect(self._refresh)
        self.review.chosen_changed.connect(self._refresh)
        self.review.notes_changed.connect(self._refresh)
        self.review.refused.connect(self.say)
        self.review.remeasured.connect(self._remeasured)
        self.review_place.findings.reword_asked.connect(self.reword)
        self.review_place.menu_asked.connect(self.show_rep_menu)
        self.review_place.compare.set_asked.connect(self.compare_with)

    def _run(self, command: Command) -> None:
        if command.when(self):
            command.run(self)
            self._refresh()

    # What is shown

    def _refresh(self) -> None:
        """Header, hints, and which commands can be used now."""
        if not hasattr(self, "actions_by_id"):
            return
        waiting = self.library.count("waiting") if self.place == "queue" else 0
        self.rail["queue"].setChecked(self.place == "queue")
        self.rail["review"].setChecked(self.place == "review")
        self.rail["standards"].setChecked(self.place == "standards")
        self.rail["review"].setEnabled(
            self.review.record is not None or self.queue.chosen is not None
        )
        record = self.review.record
        in_review = self.place == "review"
        for label in (self.what, self.school, self.load, self.when, self.before, self.after):
            label.setVisible(in_review)
        if in_review and record is not None and self.review.measured is not None:
            review = self.review.measured.review
            self._entitle(record.client)
            self.what.setText(review.standard.name)
            self.school.setText(review.standard.school.name)
            self.school.setVisible(len(review.standard.schools) > 1)
            load = f"{record.load_kg:g} kg × " if record.load_kg else ""
            partial = len(review.reps) - review.full_reps
            reps = _count_words(review.reps) + (f" + {partial} short" if partial else "")
            self.load.setText(f"{load}{reps}" if load else f"{reps} reps")
            filmed = review.trust.view[0].lower() + review.trust.view[1:]
            pain = " · pain" if self.review.notes.pain else ""
            done = " · reviewed" if self.review.notes.state == "done" else ""
            self.when.setText(f"{day_words(record.recorded)}, {filmed}{pain}{done}")
            place, total = self.queue.position(record.id)
            kind = {"waiting": "waiting", "done": "reviewed", None: "in all"}[self.queue.state]
            self.position.setText(f"set {place} of {total} {kind}" if place else "")
            self.before.setEnabled(self.queue.beside(record.id, -1) is not None)
            self.after.setEnabled(self.queue.beside(record.id, 1) is not None)
        elif self.place == "standards":
            self._entitle("Standards")
            own = sum(self.catalogue().is_own(i) for i in self.catalogue().ids())
            count = len(self.catalogue().ids())
            self.position.setText(f"{count} standards" + (f", {own} of them yours" if own else ""))
        elif self.place == "marking":
            self._entitle_marking()
        elif not in_review:
            self._entitle("Queue")
            self.position.setText(f"{waiting} waiting")
        hints = {
            "standards": "↑ ↓ ← → choose    / find    V turn    space stop    Ctrl+D copy    Ctrl+Z undo    Escape queue    F1 keys",
            "marking": "click mark    drag move    wheel zoom    , . frame    Q look again    Backspace take away    Ctrl+Enter follow    F3 review    Escape queue    F1 keys",
            "queue": "Enter open    / find    Ctrl+O add    Delete erase    Ctrl+K all commands    F1 keys",
            "review": "space play    ↑ ↓ rep    N finding    K keep    D drop    E reword    B path    G traces    J numbers    C compare    O ghost    P page    Ctrl+Enter done    F1 all keys",
        }
        self.hints.setText(hints[self.place])
        for command in COMMANDS:
            self.actions_by_id[command.id].setEnabled(command.when(self))
        undo, redo = self.undo_words(), self.redo_words()
        self.actions_by_id["edit.undo"].setText(f"Undo: {undo}" if undo else "Undo")
        self.actions_by_id["edit.redo"].setText(f"Redo: {redo}" if redo else "Redo")

    def _entitle_marking(self) -> None:
        record = self.marking.record
        assert record is not None
        self._entitle(record.client)
        for label in (self.what, self.when):
            label.setVisible(True)
        self.what.setText(self.catalogue().standard(record.standard).name)
        self.when.setText(f"{day_words(record.recorded)}, landmarks")
        found = f"found by {record.tracked_by}" if record.tracked_by else "none found yet"
        self.position.setText(found if record.clip_hash else "")

    def _entitle(self, words: str) -> None:
        """The title, shortened where a name is very long; the whole of it in the tip."""
        room = max(self.width() // 3, 300)
        metrics = self.title.fontMetrics()
        self.title.setText(metrics.elidedText(words, Qt.TextElideMode.ElideRight, room))
        self.title.setToolTip(words)

    def say(self, words: str) -> None:
        """One sentence at the foot of the window, for a few seconds."""
        self.said.setText(words)
        self._quiet.start(6000)

    def set_mode(self, mode: theme.Mode) -> None:
        self.mode = mode
        self.settings.setValue("mode", mode)
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        self.colours = theme.apply(app, mode)
        self.queue_place.set_colours(self.colours)
        self.review_place.set_colours(self.colours)
        if self.standards_seen:
            self.standards_place.set_colours(self.colours)
        if self.marking_seen:
            self.marking_place.set_colours(self.colours)

    # Going about

    def go_queue(self) -> None:
        if self.place == "queue" and self.queue_place.search_field.text():
            self.queue_place.search_field.clear()
        self.review.playback.pause()
        self.place = "queue"
        self.queue.refresh()
        self.stack.setCurrentWidget(self.queue_place)
        self.queue_place.list.setFocus()
        self._refresh()

    def go_review(self) -> None:
        marked = self.marking.record if self.place == "marking" else None
        if marked is not None and not marked.waits_for_landmarks:
            self.open_set(marked.id)
        elif marked is not None:
            self.say("There is nothing to review yet: follow the marks first.")
        elif self.review.record is None:
            self.open_chosen()
        else:
            self._show_review()

    def _show_review(self) -> None:
        """The review place, with the set that is open in it."""
        self.place = "review"
        self.stack.setCurrentWidget(self.review_place)
        self.review_place.setFocus()
        self._refresh()

    def find_set(self) -> None:
        if self.place == "standards":
            self.standards_place.search.setFocus()
            self.standards_place.search.selectAll()
            return
        if self.place != "queue":
            self.go_queue()
        self.queue_place.search_field.setFocus()
        self.queue_place.search_field.selectAll()

    def open_chosen(self) -> None:
        if self.queue.chosen is not None:
            self.open_set(self.queue.chosen)

    def step_set(self, by: int) -> None:
        if self.review.record is not None:
            beside = self.queue.beside(self.review.record.id, by)
            if beside is not None:
                self.open_set(beside)
            else:
                self.say("That was the last set." if by > 0 else "This is the first set.")

    def done_and_next(self) -> None:
        """Take the set off the queue and open the next one that waits."""
        record = self.review.record
        if record is None:
            return
        following = self.queue.beside(record.id, 1)
        self.review.set_done(self.review.notes.state != "done")
        notes, client = self.review.notes, record.client
        if notes.state != "done":
            self.say(f"{client}'s set is back in the queue.")
            self.queue.refresh()
            return
        before = SetNotes(notes.decisions, notes.note, "waiting", notes.pain)
        self._library_edits.append(
            LibraryEdit("Mark reviewed", lambda: self._put_back(record.id, before))
        )
        self._measured.pop(record.id, None)
        self.queue.refresh()
        if following is not None:
            self.open_set(following)
        else:
            self.go_queue()
        self.say(f"{client}'s set is reviewed.")

    def _put_back(self, set_id: int, notes: SetNotes) -> None:
        self.library.keep_notes(set_id, notes)
        self._measured.pop(set_id, None)
        self.queue.refresh()
        self.open_set(set_id)

    def open_set(self, set_id: int) -> None:
        """Show a set in the review place, measuring it first where that is not done yet."""
        self.queue.choose(set_id)
        self.settings.setValue("set", set_id)
        if self.library.record(set_id).waits_for_landmarks:
            self.mark_set(set_id)
            return
        if set_id in self._measured:
            self._show(set_id)
            return
        self._opening = set_id
        self.say("Measuring…")
        self._measure(set_id, lambda: self._show(set_id) if self._opening == set_id else None)

    def _measure(self, set_id: int, then: Callable[[], None]) -> None:
        folder = self.library.folder

        def work(progress: Callable[[float], None]) -> tuple[SetRecord, Measured]:
            from guide_arc.library.own_standards import OwnStandards  # noqa: PLC0415
            from guide_arc.library.reviewing import compute  # noqa: PLC0415 - loads the core

            library = Library.open(folder)
            try:
                record = library.record(set_id)
                catalogue = OwnStandards(library).catalogue()
                found = compute(record, library.track(set_id), catalogue, progress, ALL)
            finally:
                library.close()
            measured = Measured(*found)
            _ = measured.rings, measured.extent, measured.tracks  # computed here, off the window
            return record, measured

        def done(result: tuple[SetRecord, Measured]) -> None:
            self._measured[set_id] = result
            self._measured.move_to_end(set_id)
            while len(self._measured) > _KEPT_MEASURED:
                self._measured.popitem(last=False)
            then()

        self.jobs.start(work, done, self._failed)

    def _show(self, set_id: int) -> None:
        self._opening = None
        _old, measured = self._measured[set_id]
        self._measured.move_to_end(set_id)
        self.review.open(self.library.record(set_id), measured)
        self.review_place.compare.offer(self.library.earlier_sets(set_id))
        self.said.setText("")
        self._show_review()
        following = self.queue.beside(set_id, 1)
        waits = following is not None and self.library.record(following).waits_for_landmarks
        if following is not None and following not in self._measured and not waits:
            self._measure(following, lambda: None)  # so that the next set opens at once

    def _keep_review(self, set_id: int, review: Review) -> None:
        from guide_arc import __version__  # noqa: PLC0415
        from guide_arc.formats.review_json import review_document  # noqa: PLC0415
        from guide_arc.library.glance import glance_of  # noqa: PLC0415

        self.library.keep_review(set_id, __version__, review_document(review), glance_of(review))

    def _remeasured(self) -> None:
        """What is kept of the open set follows what was changed by hand."""
        record, measured = self.review.record, self.review.measured
        if record is not None and measured is not None:
            self._measured[record.id] = (record, measured)
        self._refresh()

    def _failed(self, error: Exception) -> None:
        self._opening = None
        if isinstance(error, BadInput):
            self.say(str(error))
            return
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Guide Arc",
            "Something went wrong in the program itself.",
            parent=self,
        )
        box.setInformativeText("Nothing that was decided is lost. The details help to mend it.")
        box.setDetailedText("\n".join([repr(error), *getattr(error, "__notes__", [])]))
        box.open()

    def _came_back(self) -> None:
        """Choose the set that was open last time."""
        last = self.settings.value("set")
        if last is not None and int(last) in [row.id for row in self.queue.rows]:
            self.queue.choose(int(last))
        self.queue_place.list.setFocus()

    def wait_until_quiet(self) -> None:
        """Let the window work until no job runs (for pictures and for closing)."""
        loop = QEventLoop()
        poll = QTimer()
        poll.timeout.connect(lambda: None if self.jobs.busy else loop.quit())
        poll.start(10)
        loop.exec()
        QApplication.processEvents()

    # Undo

    def undo_words(self) -> str | None:
        if self.place == "marking":
            return self.marking.undo_words
        if self.place == "standards":
            return self.standards.undo_words
        if self.place == "review" and self.review.undo_words:
            return self.review.undo_words
        return self._library_edits[-1].words if self._library_edits else None

    def redo_words(self) -> str | None:
        if self.place == "marking":
            return self.marking.redo_words
        if self.place == "standards":
            return self.standards.redo_words
        return self.review.redo_words if self.place == "review" else None

    def undo(self) -> None:
        if self.place == "marking":
            words = self.marking.undo_words
            self.marking.undo()
            self.say(f"Taken back: {words}." if words else "")
        elif self.place == "standards":
            words = self.standards.undo_words
            self.standards.undo()
            self.say(f"Taken back: {words}." if words else "")
        elif self.place == "review" and self.review.undo_words:
            self.say(f"Taken back: {self.review.undo_words}.")
            self.review.undo()
        elif self._library_edits:
            edit = self._library_edits.pop()
            edit.undo()
            self.say(f"Taken back: {edit.words}.")

    def redo(self) -> None:
        if self.place == "marking":
            self.marking.redo()
        elif self.place == "standards":
            self.standards.redo()
        elif self.place == "review":
            self.review.redo()

    # Words

    def reword(self) -> None:
        finding = self.review.finding
        if finding is None:
            return
        dialog = QInputDialog(self)
        dialog.setWindowTitle("Reword")
        dialog.setLabelText(f"{finding.rule.title}: what should the client read?")
        dialog.setTextValue(self.review.cue(finding))
        dialog.setMinimumWidth(460)
        dialog.textValueSelected.connect(
            lambda words: (
                self.review.decide(finding, "reword", words.strip()) if words.strip() else None
            )
        )
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def write_note(self) -> None:
        self.review_place.note.setFocus()

    def ask_for_coach(self) -> None:
        dialog = QInputDialog(self)
        dialog.setWindowTitle("Your name")
        dialog.setLabelText("Decisions are stored under this name:")
        dialog.setTextValue(self.review.coach)
        dialog.textValueSelected.connect(self._name_coach)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _name_coach(self, name: str) -> None:
        if name.strip():
            self.review.coach = name.strip()
            self.library.keep_setting("coach", name.strip())

    # The page

    def page_name(self) -> str:
        return self.set_file_name(".pdf")

    def set_file_name(self, ending: str) -> str:
        """A file name for what leaves the open set: client, day, exercise."""
        record = self.review.record
        assert record is not None
        words = f"{record.client} {record.recorded[:10]} {record.standard}".lower()
        return "-".join("".join(ch if ch.isalnum() else " " for ch in words).split()) + ending

    def ask_for_page(self) -> None:
        folder = Path(str(self.settings.value("pages", str(Path.home()))))
        name, _ = QFileDialog.getSaveFileName(
            self,
            "Page for the client",
            str(folder / self.page_name()),
            "PDF with HTML beside it (*.pdf)",
        )
        if name:
            self.settings.setValue("pages", str(Path(name).parent))
            self.save_page(Path(name))

    def save_page(self, target: Path) -> None:
        """Write the client's page as PDF, and as HTML beside it."""
        record, measured, notes = self.review.record, self.review.measured, self.review.notes
        if record is None or measured is None:
            return
        coach = self.review.coach
        self.say("Making the page…")

        def work(progress: Callable[[float], None]) -> Path:
            from guide_arc.reports.page import write_page  # noqa: PLC0415 - loads the page maker

            progress(0.0)
            return write_page(target, record, measured, notes, coach)

        def done(path: Path) -> None:
            self.say(f"Saved {path.name} and {path.with_suffix('.html').name}.")
            if (
                self.settings.value("open_pages", "yes") == "yes"
                and self.isVisible()
                and QApplication.platformName() not in ("offscreen", "minimal")
            ):
                QDesktopServices.openUrl(QUrl.fromLocalFile(str(path)))

        self.jobs.start(work, done, self._failed)

    # Help and closing

    def show_palette(self) -> None:
        palette = Palette(self, lambda command: command.when(self))
        palette.accepted.connect(lambda: self._run(palette.chosen) if palette.chosen else None)
        palette.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        palette.open()

    def show_keys(self) -> None:
        page = KeysPage(self)
        page.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        page.open()

    def show_care(self) -> None:
        box = QMessageBox(QMessageBox.Icon.NoIcon, "Care and limits", CARE, parent=self)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    def close_quietly(self) -> None:
        self.close()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.settings.setValue("geometry", self.saveGeometry())
        self.settings.sync()
        self.review.playback.pause()
        self.jobs.stop_all()
        self.close_clips()
        self._garbage.stop()
        self._quiet.stop()
        self.stop_watching()
        # The models outlive the widgets by a moment: no news for those who are gone.
        for signal in (
            *(self.queue.changed, self.queue.chosen_changed, self.review.opened),
            *(self.review.chosen_changed, self.review.notes_changed, self.review.look_changed),
            *(self.review.playback.moved, self.review.playback.changed),
            *(self.review.remeasured, self.review.ghost_changed),
        ):
            signal.disconnect()
        super().closeEvent(event)


def _login_name() -> str:
    try:
        return getpass.getuser()
    except (KeyError, OSError):
        return "coach"


def _count_words(reps) -> str:  # type: ignore[no-untyped-def]
    """`10`, or `4 left, 4 right` when the arms alternate."""
    full = [r for r in reps if r.full]
    sides = {r.side for r in full}
    if sides == {"left", "right"}:
        return f"{sum(r.side == 'left' for r in full)} left, {sum(r.side == 'right' for r in full)} right"
    return str(len(full))
