"""What the window does with sets as a whole: take them in, correct them, erase them, bring them back."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from PyQt6.QtCore import QSettings, Qt, QTimer
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QFileDialog, QMainWindow, QMessageBox

from guide_arc.app.jobs import Job, JobRunner
from guide_arc.app.places.queue import QueuePlace
from guide_arc.app.viewmodels.queue import QueueModel
from guide_arc.app.viewmodels.review import ReviewModel
from guide_arc.drawings.measured import Measured
from guide_arc.drawings.words import day_words
from guide_arc.library.records import SetRecord
from guide_arc.library.store import Library

if TYPE_CHECKING:
    from collections import OrderedDict

    from guide_arc.app.places.details import Details, Known
    from guide_arc.app.viewmodels.incoming import Incoming, Refused
    from guide_arc.library.clip_sets import ClipDetails
    from guide_arc.library.own_standards import OwnStandards
    from guide_arc.standards.catalogue import Catalogue

PlaceName = Literal["queue", "review", "standards", "marking"]

# The standards and their checks take a moment to load: dialogs and jobs load them when needed,
# so that the window is there at once.


@dataclass(frozen=True)
class LibraryEdit:
    """A change of the library itself that can be taken back."""

    words: str
    undo: Callable[[], None]


class WindowWithSets(QMainWindow):
    """The part of the window that changes which sets the library holds."""

    library: Library
    settings: QSettings
    jobs: JobRunner
    queue: QueueModel
    review: ReviewModel
    queue_place: QueuePlace
    place: PlaceName
    _measured: OrderedDict[int, tuple[SetRecord, Measured]]
    _adding: Job | None
    _library_edits: list[LibraryEdit]

    def say(self, words: str) -> None:
        raise AssertionError("the window says it")

    def go_queue(self) -> None:
        raise AssertionError("the window goes there")

    def open_set(self, set_id: int) -> None:
        raise AssertionError("the window opens it")

    def _refresh(self) -> None:
        raise AssertionError("the window shows it")

    def _failed(self, error: Exception) -> None:
        raise AssertionError("the window tells it")

    @cached_property
    def own_standards(self) -> OwnStandards:
        """The coach's own standards and preferred schools; loaded when first asked for."""
        from guide_arc.library.own_standards import OwnStandards  # noqa: PLC0415

        return OwnStandards(self.library)

    def catalogue(self) -> Catalogue:
        return self.own_standards.catalogue()

    # Taking sets in

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and event.mimeData() is not None and event.mimeData().hasUrls():  # type: ignore[union-attr]
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        if event is None or event.mimeData() is None:
            return
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]  # type: ignore[union-attr]
        event.acceptProposedAction()
        # The drop must end before a dialog opens.
        QTimer.singleShot(0, lambda: self.take_in(paths))

    def ask_for_files(self) -> None:
        folder = str(self.settings.value("folder", str(Path.home())))
        names, _ = QFileDialog.getOpenFileNames(
            self,
            "Add sets",
            folder,
            "Clips and landmark tracks (*.mp4 *.mov *.m4v *.mkv *.webm *.csv *.json *.c3d *.trc *.zip);;All files (*)",
        )
        if names:
            self.settings.setValue("folder", str(Path(names[0]).parent))
            self.take_in([Path(n) for n in names])

    def take_in(self, paths: list[Path]) -> None:
        """Read files, ask what they do not say, and add them."""
        if not paths:
            return
        names = self.marker_names()
        clients = self.library.clients()
        catalogue = self.catalogue()

        def work(progress: Callable[[float], None]) -> object:
            from guide_arc.app.viewmodels.incoming import look_into  # noqa: PLC0415

            return look_into(paths, clients, catalogue, progress, names)

        words = "Looking into the files"
        self.queue_place.show_progress(0.0, words)
        self._adding = self.jobs.start(
            work, lambda found: self._looked_into(paths, *found), self._adding_failed,
            lambda share: self.queue_place.show_progress(share, words),
            lambda: self.queue_place.show_progress(None),
        )  # fmt: skip

    def marker_names(self) -> dict[str, str]:
        """What was said of markers of other programs' files, landmark by marker."""
        names: dict[str, str] = json.loads(self.library.setting("marker-names", "{}"))
        return names

    def _looked_into(self, paths: list[Path], good: list[Incoming], bad: list[Refused]) -> None:
        """Where markers have to be named first, that is asked, and the files are read again."""
        unnamed = next((r.unnamed for r in bad if r.unnamed is not None), None)
        if unnamed is None:
            self._ask_about(good, bad)
            return
        from guide_arc.app.places.names import NamesDialog  # noqa: PLC0415

        self._adding = None
        self.queue_place.show_progress(None)
        name = next(r.name for r in bad if r.unnamed is unnamed)
        dialog = NamesDialog(self, name, unnamed.markers, unnamed.guessed)

        def use() -> None:
            kept = {**self.marker_names(), **dialog.names()}
            self.library.keep_setting("marker-names", json.dumps(kept))
            self.take_in(paths)

        dialog.accepted.connect(use)
        dialog.rejected.connect(lambda: self._ask_about(good, bad))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _ask_about(self, good: list[Incoming], bad: list[Refused]) -> None:
        from guide_arc.app.places.details import IncomingDialog  # noqa: PLC0415

        self._adding = None
        self.queue_place.show_progress(None)
        bundles = [item.bundle for item in good if item.bundle]
        good = [item for item in good if not item.bundle]
        if bundles:
            self.add_bundles(bundles)
            if not good and not bad:
                return
        dialog = IncomingDialog(self, self._what_is_known(), good, bad)
        dialog.accepted.connect(lambda: self.add_all(dialog.result_rows()))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _what_is_known(self) -> Known:
        from guide_arc.app.places.details import Known  # noqa: PLC0415

        return Known(self.library.clients(), self.catalogue(), self.own_standards.preferences())

    def add_all(self, rows: list[tuple[Incoming, Details]]) -> None:
        """Take in what the dialog asked about: tracks at once, clips after them."""
        from guide_arc.library.clip_sets import ClipDetails  # noqa: PLC0415

        clips = [
            (item.clip, ClipDetails(
                d.client, d.standard, d.school, d.view or "left", d.tempo, d.load_kg, item.recorded,
                capture_hz=d.capture_hz,
            ))
            for item, d in rows if item.clip
        ]  # fmt: skip
        tracks = [(item, details) for item, details in rows if not item.clip]
        if tracks:
            self.add_sets(tracks, lambda: self.add_clips(clips))
        else:
            self.add_clips(clips)

    def add_bundles(self, paths: list[Path]) -> None:
        raise AssertionError("the window takes them in")

    def add_clips(self, rows: list[tuple[Path, ClipDetails]]) -> None:
        raise AssertionError("the window copies them")

    def add_sets(
        self, rows: list[tuple[Incoming, Details]], then: Callable[[], None] = lambda: None
    ) -> None:
        """Store and review sets, off the window's thread, one by one; `then` follows."""
        if not rows:
            return
        folder = self.library.folder

        def work(progress: Callable[[float], None]) -> tuple[list[int], int]:
            from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415

            library = Library.open(folder)
            added: list[int] = []
            known = 0
            try:
                for i, (item, details) in enumerate(rows):
                    progress(i / len(rows))
                    set_id, new = library.add_set(
                        item.data, item.name, client=details.client, standard=details.standard,
                        school=details.school, tempo=details.tempo, recorded=item.recorded,
                        load_kg=details.load_kg,
                    )  # fmt: skip
                    if new:
                        review_and_keep(library, set_id)
                        added.append(set_id)
                    else:
                        known += 1
            finally:
                library.close()
            return added, known

        def done(result: tuple[list[int], int]) -> None:
            self._added(result)
            then()

        total = len(rows)
        words = f"Adding {total} set{'' if total == 1 else 's'}"
        self.queue_place.show_progress(0.0, words)
        self._adding = self.jobs.start(
            work, done, self._adding_failed,
            lambda share: self.queue_place.show_progress(share, words),
            lambda: self._added(([], 0)),
        )  # fmt: skip

    def _added(self, result: tuple[list[int], int]) -> None:
        added, known = result
        self._adding = None
        self.queue_place.show_progress(None)
        self.queue.refresh()
        if added:
            self.queue.choose(added[0])
            self.queue.chosen_changed.emit()
        parts = []
        if added:
            parts.append(f"{len(added)} set{'' if len(added) == 1 else 's'} added")
            ids = list(added)
            self._library_edits.append(
                LibraryEdit(f"Add {len(ids)} set(s)", lambda: self._take_out(ids))
            )
        if known:
            parts.append(f"{known} already in the library")
        self.say(", ".join(parts) + "." if parts else "Stopped; the sets before are kept.")
        self._refresh()

    def _adding_failed(self, error: Exception) -> None:
        self._adding = None
        self.queue_place.show_progress(None)
        self.queue.refresh()
        self._failed(error)

    def _stop_adding(self) -> None:
        if self._adding is not None:
            self._adding.stop()

    def _take_out(self, ids: list[int]) -> None:
        for set_id in ids:
            self._forget(set_id)
            self.library.take_out(set_id)
        self.go_queue()

    def _forget(self, set_id: int) -> None:
        self._measured.pop(set_id, None)
        if self.review.record is not None and self.review.record.id == set_id:
            self.review.close()

    def _review_missing(self) -> None:
        """Sets whose review is not there yet (a kill in the middle of adding) get one."""
        missing = self.library.without_review()
        if not missing:
            return
        folder = self.library.folder

        def work(progress: Callable[[float], None]) -> None:
            from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415

            library = Library.open(folder)
            try:
                for i, set_id in enumerate(missing):
                    progress(i / len(missing))
                    review_and_keep(library, set_id)
            finally:
                library.close()

        self.jobs.start(work, lambda _none: self.queue.refresh(), self._failed)

    def review_all_waiting(self) -> int:
        """Compute every waiting set's review anew; how many there were."""
        from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415

        rows = [row for row in self.library.queue(state="waiting") if row.has_track]
        for row in rows:
            review_and_keep(self.library, row.id)
        self.queue.refresh()
        return len(rows)

    # Changing sets

    def _chosen_id(self) -> int | None:
        if self.place == "review" and self.review.record is not None:
            return self.review.record.id
        return self.queue.chosen

    def edit_details(self) -> None:
        set_id = self._chosen_id()
        if set_id is None:
            return
        from guide_arc.app.places.details import Details, DetailsDialog  # noqa: PLC0415

        record = self.library.record(set_id)
        given = Details(record.client, record.standard, record.school, record.tempo, record.load_kg)
        dialog = DetailsDialog(self, self._what_is_known(), given)
        dialog.accepted.connect(lambda: self._change_details(set_id, given, dialog.form.details()))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _change_details(self, set_id: int, before: Details, after: Details) -> None:
        if after == before:
            return
        self._library_edits.append(
            LibraryEdit("Set details", lambda: self._put_details(set_id, before))
        )
        self._put_details(set_id, after)

    def _put_details(self, set_id: int, details: Details) -> None:
        self.library.change_set(
            set_id, client=details.client, standard=details.standard, school=details.school,
            tempo=details.tempo, load_kg=details.load_kg,
        )  # fmt: skip
        self._forget_review(set_id)

    def _forget_review(self, set_id: int) -> None:
        """What was computed of a set no longer holds: compute it again and show it."""
        shown = (
            self.place == "review"
            and self.review.record is not None
            and self.review.record.id == set_id
        )
        self._measured.pop(set_id, None)
        folder = self.library.folder

        def work(_progress: Callable[[float], None]) -> None:
            from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415

            library = Library.open(folder)
            try:
                review_and_keep(library, set_id)
            finally:
                library.close()

        def done(_none: object) -> None:
            self.queue.refresh()
            if shown:
                self.open_set(set_id)

        self.jobs.start(work, done, self._failed)

    def erase_chosen(self) -> None:
        set_id = self.queue.chosen
        if set_id is None:
            return
        record = self.library.record(set_id)
        box = QMessageBox(
            QMessageBox.Icon.Question, "Erase set",
            f"Erase {record.client}'s set of {day_words(record.recorded)}?", parent=self,
        )  # fmt: skip
        box.setInformativeText(
            "Its recording, review and notes leave the library. Undo brings them back until the program closes."
        )
        erase = box.addButton("Erase", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.buttonClicked.connect(lambda button: self.erase(set_id) if button is erase else None)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    def erase(self, set_id: int) -> None:
        """Take a set out; undo puts it back."""
        record = self.library.record(set_id)
        self._forget(set_id)
        removed = self.library.take_out(set_id)

        def back() -> None:
            self.library.put_back(removed)
            self._review_missing()
            self.queue.refresh()

        self._library_edits.append(LibraryEdit(f"Erase {record.client}'s set", back))
        self.queue.refresh()
        self.say(f"{record.client}'s set is erased. Ctrl+Z brings it back.")
