"""What the review asks the coach, and what it offers for the set that is open."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QMenu, QWidget

from guide_arc.app.contract.job import Alone, Job, Progress
from guide_arc.app.places.review.by_hand import loosened
from guide_arc.app.places.review.leaving import SetExports
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.app.places.review.split_dialog import SplitDialog
from guide_arc.app.places.review.to_follow_up import to_follow_up
from guide_arc.app.services.destinations import ToReview, ToStandards
from guide_arc.app.services.set_jobs import OpenedSet
from guide_arc.app.widgets.asking import ask_number, ask_which, ask_words, window_of
from guide_arc.app.widgets.follow_up_dialog import ask_follow_up
from guide_arc.core.reps.superset import Part, split_by_standard
from guide_arc.drawings.days import moment_words
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.review.answers_dialog import ask_for_answer

# The commands that the ribbon's menu offers, a gap between groups.
REP_MENU: Final = (
    "rep.edge",
    "rep.split",
    "rep.merge",
    "rep.delete",
    "rep.add",
    "",
    "set.start",
    "set.end",
    "set.uncorrect",
    "",
    "rep.ghost",
)


class ReviewQuestions:
    """Dialogs and menus over the place. opened : the set that is open there"""

    def __init__(
        self,
        program: ReviewNeeds,
        model: ReviewModel,
        parent: QWidget,
        opened: Callable[[], OpenedSet | None],
    ) -> None:
        self.program, self.model, self._parent, self._opened = program, model, parent, opened
        self.leaving = SetExports(program, model, parent)

    def ask_for_page(self) -> None:
        self.leaving.ask_for_page()

    def ask_for_export(self) -> None:
        self.leaving.ask_for_export()

    def reword(self) -> None:
        finding = self.model.doc.finding
        if finding is not None:
            question = f"{finding.title}: what should the client read?"
            ask_words(
                self._parent,
                "Reword",
                question,
                self.model.doc.cue(finding),
                lambda words: self.model.decide(finding, "reword", words),
            )

    def ask_for_answer(self) -> None:
        """An answer that the coach keeps becomes the note, with what this set gives filled in."""
        ask_for_answer(self.program, self.model, self._parent)

    def ask_for_follow_up(self) -> None:
        """Something to come back to, for this client: what this set gives is offered first."""
        record = self.model.doc.record
        if record is not None:
            ask_follow_up(
                self._parent,
                record.client,
                to_follow_up(self.model),
                lambda words, due: self.program.follow_ups.add(
                    record.client, words, due, record.id, ToReview()
                ),
            )

    def ask_for_loose(self) -> None:
        """How many of the last reps may be loose."""
        question = (
            "How many of the last reps may be loose?\nWhat puts the spine at stake is never"
            " allowed."
        )
        ask_number(
            self._parent,
            "Loose last reps",
            question,
            self.model.doc.settings.loose_last,
            10,
            lambda last: self.model.set_up(lambda doc: loosened(doc, last)),
        )

    def judge_as_it_fits(self) -> None:
        """Judge the set by the school that it was done as; undo takes it back."""
        record, opened = self.model.doc.record, self._opened()
        if record is not None and opened is not None and opened.fit is not None:
            school = opened.fit.school.id
            self.program.set_changes.change(
                record.id, {"school": record.school}, {"school": school}
            )

    def ask_for_other_view(self) -> None:
        """Choose the recording that shows the same reps from another side."""
        record, opened = self.model.doc.record, self._opened()
        if record is None or opened is None:
            return
        others = {}
        for other in opened.that_day:
            words = f"{moment_words(other.recorded)}, {other.view.lower()}"
            others[f"{words} (set {other.set_id})" if words in others else words] = other.set_id
        if not others:
            self.program.say(
                "No other set of this client and exercise was recorded on that day: add it first."
            )
            return
        question = (
            "Which recording shows the same reps from another side? Both are reviewed as one set."
        )
        ask_which(
            self._parent,
            "The same set from another side",
            question,
            list(others),
            "Review together",
            lambda words: self.program.set_changes.join_views(others[words], record.id),
        )

    def part_views(self) -> None:
        """The other views are sets of their own again."""
        record = self.model.doc.record
        if record is not None:
            for other in self.program.library.library.other_views(record.id):
                self.program.set_changes.join_views(other, record.id, joined=False)

    def ask_for_standard(self) -> None:
        """Propose a standard from the set that is open."""
        record, measured = self.model.doc.record, self.model.doc.measured
        if record is None or measured is None:
            return
        name = f"{measured.review.standard.name}, {record.client.split()[0]}"[:60]
        ask_words(
            self._parent,
            "Standard from this set",
            "Name of the standard:",
            name,
            lambda words: self.program.go(ToStandards(model_set=measured, name=words)),
        )

    def show_rep_menu(self, at: QPoint) -> None:
        """What can be done to the reps at the clock, from the window's own actions."""
        window = window_of(self._parent)
        actions = getattr(window, "actions_by_id", {})
        menu = QMenu(self._parent)
        for id in REP_MENU:
            if not id:
                menu.addSeparator()
            elif id in actions:
                menu.addAction(actions[id])
        self.program.changed()
        menu.popup(at)

    def ask_to_split(self) -> None:
        """Ask for the other exercise of a superset, then propose where each was done."""
        record = self.model.doc.record
        if record is None:
            return
        catalogue = self.program.library.catalogue()
        names = {catalogue.standard(id).name: id for id in catalogue.ids() if id != record.standard}
        ask_which(
            self._parent,
            "Split between two exercises",
            "This recording also holds a set of:",
            sorted(names),
            "Find it",
            lambda name: self.propose_split(names[name]),
        )

    def propose_split(self, other: str) -> None:
        """Find the parts off the window's thread, then show them for the coach to confirm."""
        record, measured = self.model.doc.record, self.model.doc.measured
        if record is None or measured is None:
            return
        another = self.program.library.catalogue().standard(other)

        def run(progress: Progress) -> tuple[Part, ...]:
            progress(0.0)
            return tuple(split_by_standard(measured.body, (measured.review.standard, another)))

        def done(parts: tuple[Part, ...]) -> None:
            dialog = SplitDialog(self._parent, record, parts)
            dialog.accepted.connect(
                lambda: self.program.set_changes.split(record, dialog.chosen(), self._split)
            )
            dialog.open()

        words = "Looking for both exercises"
        self.program.start(Job(words, Alone(run), "split", "now"), done)

    def _split(self, ids: list[int]) -> None:
        self.program.measuring.open(ids[0])
        self.program.say(f"One recording, {len(ids)} sets.")
