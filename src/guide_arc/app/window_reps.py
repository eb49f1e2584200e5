"""What the window does within one set: reps corrected by hand, comparison, one recording split in two."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from PyQt6.QtCore import QPoint
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QInputDialog, QMenu

from guide_arc.app.places.review import ReviewPlace
from guide_arc.app.window_drop import WindowWithDropFolder
from guide_arc.app.window_sets import LibraryEdit
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.model.settings import Correction
from guide_arc.drawings.measured import Measured
from guide_arc.drawings.ribbon import edges_of
from guide_arc.drawings.words import day_words
from guide_arc.library.records import SetPart, SetRecord

# The commands that the ribbon's menu offers, a gap between groups.
REP_MENU: Final = (
    "rep.edge", "rep.split", "rep.merge", "rep.delete", "rep.add", "",
    "set.start", "set.end", "set.uncorrect", "", "rep.ghost",
)  # fmt: skip


class WindowWithReps(WindowWithDropFolder):
    """The part of the window that works on the set that is open."""

    review_place: ReviewPlace
    actions_by_id: dict[str, QAction]

    def _measure(self, set_id: int, then: Callable[[], None]) -> None:
        raise AssertionError("the window measures it")

    # Reps by hand

    def show_rep_menu(self, at: QPoint) -> None:
        """What can be done to the reps at the clock."""
        menu = QMenu(self)
        for id in REP_MENU:
            if id:
                menu.addAction(self.actions_by_id[id])
            else:
                menu.addSeparator()
        self._refresh()
        menu.popup(at)

    def _side(self) -> WorkSide:
        """The side that a correction is about: the chosen rep's, or the set's."""
        measured = self.review.measured
        assert measured is not None
        if self.review.rep is not None:
            return self.review.rep.side
        return next(iter(measured.repset.drives), "both")

    def _at(self) -> float:
        return self.review.playback.at_s

    def correct_here(self, kind: str, words: str) -> None:
        """A correction at the clock: "delete", "split", "merge", "add"."""
        rep = self.review.rep
        at_s = self._at()
        if kind in ("delete", "merge") and rep is not None:
            at_s = rep.turn_s  # the chosen rep is meant, wherever in it the clock stands
        self.review.correct(words, Correction(kind, at_s, side=self._side()))  # type: ignore[arg-type]

    def move_edge_here(self) -> None:
        """The boundary nearest to the clock comes to the clock."""
        at_s, side = self._at(), self._side()
        measured = self.review.measured
        assert measured is not None
        near: list[tuple[float, Rep, Correction]] = [
            (abs(was - at_s), rep, Correction("edge", was, at_s, side, edge))
            for rep in measured.review.reps
            if rep.side == side
            for edge, was in edges_of(rep)
        ]
        if not near:
            self.say("There is no boundary to move.")
            return
        _gap, rep, change = min(near, key=lambda n: n[0])
        self.review.correct(f"Boundary of rep {rep.number}", change)

    def mark_bound(self, end: str) -> None:
        """The set truly starts, or ends, at the clock."""
        playback, at_s = self.review.playback, self._at()
        start_s, end_s = self.review.settings.bounds or (playback.start_s, playback.end_s)
        if end == "start":
            start_s = at_s
        else:
            end_s = at_s
        if end_s - start_s < 0.5:
            self.say("The set must end after it starts.")
            return
        words = "Start of the set" if end == "start" else "End of the set"
        self.review.correct(words, Correction("bounds", start_s, end_s))

    def ask_for_loose(self) -> None:
        """How many of the last reps may be loose."""
        dialog = QInputDialog(self)
        dialog.setWindowTitle("Loose last reps")
        dialog.setLabelText(
            "How many of the last reps may be loose?\nWhat puts the spine at stake is never allowed."
        )
        dialog.setInputMode(QInputDialog.InputMode.IntInput)
        dialog.setIntRange(0, 10)
        dialog.setIntValue(self.review.settings.loose_last)
        dialog.intValueSelected.connect(self.review.allow_loose)
        dialog.open()

    def show_numbers(self) -> None:
        right = self.review_place.right
        right.show_sheet("What to say" if right.current == "Numbers" else "Numbers")

    def choose_traces(self) -> None:
        self.review_place.below.show_sheet("Traces")
        self.review_place.ask_for_traces()

    # Comparison

    def compare_with(self, set_id: int) -> None:
        """Another set becomes the ghost, measured first where that is not done yet."""
        opened = self.review.record
        if opened is None:
            return

        def show() -> None:
            if self.review.record is None or self.review.record.id != opened.id:
                return  # another set was opened meanwhile
            record, measured = self._measured[set_id]
            self.review.ghost_of_set(measured, f"the set of {day_words(record.recorded)}", set_id)
            self._refresh()

        if set_id in self._measured:
            show()
        else:
            self._measure(set_id, show)

    def compare_with_last(self) -> None:
        """The set of this client and exercise before this one; again takes the ghost away."""
        ghost = self.review.ghost
        if ghost is not None:
            self.review.show_ghost(None)
            return
        record = self.review.record
        earlier = self.library.earlier_sets(record.id) if record else []
        if not earlier:
            self.say("There is no other set of this client and exercise yet.")
            return
        self.review_place.right.show_sheet("Compare")
        self.compare_with(earlier[0].id)

    # Two exercises in one recording

    def ask_to_split(self) -> None:
        """Ask for the other exercise of a superset, then propose where each was done."""
        record = self.review.record
        if record is None:
            return
        catalogue = self.catalogue()
        names = {catalogue.standard(id).name: id for id in catalogue.ids() if id != record.standard}
        dialog = QInputDialog(self)
        dialog.setWindowTitle("Split between two exercises")
        dialog.setLabelText("This recording also holds a set of:")
        dialog.setComboBoxItems(sorted(names))
        dialog.setOkButtonText("Find it")
        dialog.textValueSelected.connect(lambda name: self.propose_split(names[name]))
        dialog.open()

    def propose_split(self, other: str) -> None:
        """Find the parts off the window's thread, then show them for the coach to confirm."""
        record, measured = self.review.record, self.review.measured
        if record is None or measured is None:
            return
        self.say("Looking for both exercises…")
        another = self.catalogue().standard(other)

        def work(_progress: Callable[[float], None]) -> object:
            from guide_arc.core.reps.superset import split_by_standard  # noqa: PLC0415

            return split_by_standard(measured.body, (measured.review.standard, another))

        self.jobs.start(work, lambda parts: self._show_split(record, measured, parts), self._failed)

    def _show_split(self, record: SetRecord, measured: Measured, parts: object) -> None:
        from guide_arc.app.places.split import SplitDialog  # noqa: PLC0415

        self.say("")
        dialog = SplitDialog(self, record, measured, parts)  # type: ignore[arg-type]
        dialog.accepted.connect(lambda: self.split_set(record, dialog.chosen()))
        dialog.open()

    def split_set(self, record: SetRecord, parts: list[SetPart]) -> None:
        """Make a set of each part; taken back as one step."""
        ids = self.library.split_set(record.id, parts)
        notes = record.notes

        def back() -> None:
            for extra in ids[1:]:
                self.library.take_out(extra)
            self.library.change_set(record.id, standard=record.standard, school=record.school)
            self.library.keep_notes(record.id, notes)
            self._forget(record.id)
            self._review_missing()
            self.queue.refresh()
            self.open_set(record.id)

        self._library_edits.append(LibraryEdit("Split between two exercises", back))
        self._forget(record.id)
        self._review_missing()
        self.queue.refresh()
        self.open_set(record.id)
        self.say(f"One recording, {len(ids)} sets.")

    def _forget(self, set_id: int) -> None:
        """What was measured of a set is about something else now."""
        self._measured.pop(set_id, None)
