"""The review place: one set, with its instruments about it, and what the coach does with it."""

from __future__ import annotations

from collections.abc import Mapping
from time import monotonic
from typing import Final

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QMenu, QVBoxLayout, QWidget

from guide_arc.app.contract.job import Alone, Job, Progress
from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.contract.signal import silence
from guide_arc.app.places.review.by_hand import loosened
from guide_arc.app.places.review.desk import ReviewProgramDesk
from guide_arc.app.places.review.document import ghost_of
from guide_arc.app.places.review.leaving import SetExports
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.app.places.review.sheet import ReviewSheet
from guide_arc.app.places.review.split_dialog import SplitDialog
from guide_arc.app.places.review.stage_view import StageView
from guide_arc.app.places.review.to_follow_up import to_follow_up
from guide_arc.app.services.destinations import ToQueue, ToReview, ToStandards
from guide_arc.app.services.set_jobs import OpenedSet
from guide_arc.app.widgets.asking import ask_number, ask_which, ask_words
from guide_arc.app.widgets.clip_frames import ClipFrames
from guide_arc.app.widgets.follow_up_dialog import ask_follow_up
from guide_arc.app.widgets.soon import soon
from guide_arc.core.reps.superset import Part, split_by_standard
from guide_arc.core.review.schools import differs_words
from guide_arc.drawings.days import day_words, moment_words
from guide_arc.drawings.words import set_words
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


def make(program: ReviewNeeds) -> ReviewPlace:
    place = ReviewPlace(program)
    program.recoloured.connect(place.set_colours)
    program.library.changed.connect(place.sets_changed)
    program.library.gone.connect(place.sets_gone)
    program.sets.changed.connect(program.changed)
    program.closing.connect(place.hear_no_more)
    return place


class ReviewPlace(QWidget):
    """Lays out the instruments and keeps them in step with the model."""

    def __init__(self, program: ReviewNeeds) -> None:
        super().__init__()
        self.program = program
        colours = program.colours
        model = self.model = ReviewModel(ReviewProgramDesk(program))
        self.door = SetExports(program, model, self)
        self.opened: OpenedSet | None = None
        self._opened_s = monotonic()
        self.ghost_of: OpenedSet | None = None
        self.shown = False
        self.sheet = ReviewSheet(model, colours, self._clips)
        self.sheet.menu_asked.connect(self.show_rep_menu)
        self.sheet.findings.reword_asked.connect(self.reword)
        self.sheet.compare.set_asked.connect(self.compare_with)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.sheet)
        model.refused.connect(program.say)
        for news in (model.opened, model.chosen_changed, model.notes_changed, model.remeasured):
            news.connect(program.changed)
        model.remeasured.connect(self._renew)
        # Once this set is painted: measuring takes the processor from the painting.
        self._next_beforehand = soon(self, self._measure_next)

    # As the shell sees it

    def enter(self, to: ToReview) -> None:
        self.shown = True
        self.setFocus()
        if to.opened is not None:
            self._open(to.opened)
            if to.ghost is not None:
                self.compare_with(to.ghost)
            return
        wanted = to.set_id if to.set_id is not None else self.program.sets.chosen
        record = self.model.doc.record
        if wanted is not None and (record is None or record.id != wanted):
            self.program.measuring.open(wanted)

    def leave(self) -> None:
        self.shown = False
        self.model.playback.pause()

    def header(self) -> HeaderParts:
        record, measured = self.model.doc.record, self.model.doc.measured
        if record is None or measured is None:
            return HeaderParts(title="Review", position="no set is open")
        review, sets = measured.review, self.program.sets
        school = review.standard.school.name if len(review.standard.schools) > 1 else ""
        filmed = review.trust.view[0].lower() + review.trust.view[1:]
        pain = " · pain" if self.model.doc.notes.pain else ""
        done = " · reviewed" if self.model.doc.notes.state == "done" else ""
        place, total = sets.position(record.id)
        kind = {"waiting": "waiting", "done": "reviewed", None: "in all"}[sets.state]
        return HeaderParts(
            title=record.client,
            what=review.standard.name,
            guide=school,
            load=set_words(record.load_kg, review.reps),
            when=f"{day_words(record.recorded)}, {filmed}{pain}{done}",
            position=f"set {place} of {total} {kind}" if place else "",
            before="review.previous-set",
            after="review.next-set",
        )

    # The open set

    def _open(self, opened: OpenedSet) -> None:
        if opened.shown is None:
            return
        another = self.opened is None or self.opened.record.id != opened.record.id
        before = None if another or self.opened is None else self.opened.shown
        if another:
            self._opened_s = monotonic()
        self.opened, self.ghost_of = opened, None
        self.program.sets.choose(opened.record.id)
        self.program.remembered.keep("set", str(opened.record.id))
        self.model.open(opened.record, opened.shown, opened.that_day)
        self.sheet.compare.offer(list(opened.earlier))
        own, plan = before.review.standard if before else None, opened.shown.review.standard
        if own is not None and own.id == plan.id and own.school.id != plan.school.id:
            self.program.say(differs_words(own, plan))
        elif opened.fit is not None:
            self.program.say(f"{opened.fit.words} I judges it so.")
        if opened.clip_missing:
            self.program.say(opened.clip_missing)
        self._next_beforehand()

    def _measure_next(self) -> None:
        if self.model.doc.record is not None:
            following = self.program.sets.beside(self.model.doc.record.id, 1)
            self.program.measuring.beforehand(following)

    def sets_changed(self, ids: frozenset[int]) -> None:
        """The open set is another one than before: show it as it is now."""
        record = self.model.doc.record
        if record is not None and record.id in ids:
            self.program.measuring.look_up(record.id, self._show_anew, "renew")

    def _show_anew(self, opened: OpenedSet) -> None:
        if self.model.doc.record is not None and self.model.doc.record.id == opened.record.id:
            self._open(opened)

    def sets_gone(self, ids: frozenset[int]) -> None:
        """A set that was taken out can't stay open."""
        if self.model.doc.record is not None and self.model.doc.record.id in ids:
            self.opened = self.ghost_of = None
            self.model.close()
            if self.shown:
                self.program.go(ToQueue())

    def hear_no_more(self) -> None:
        """The models outlive the widgets by a moment."""
        self.model.playback.pause()
        silence(self.model)
        silence(self.model.playback)

    def step_set(self, by: int) -> None:
        if self.model.doc.record is None:
            return
        beside = self.program.sets.beside(self.model.doc.record.id, by)
        if beside is not None:
            self.program.measuring.open(beside)
        else:
            self.program.say("That was the last set." if by > 0 else "This is the first set.")

    def done_and_next(self) -> None:
        """Take the set off the queue and open the next one that waits."""
        record = self.model.doc.record
        if record is None:
            return
        following = self.program.sets.beside(record.id, 1)
        self.model.set_done(self.model.doc.notes.state != "done")
        self.program.sets.refresh()
        if self.model.doc.notes.state != "done":
            self.program.say(f"{record.client}'s set is back in the queue.")
            return
        self.program.evening.reviewed(record.id, monotonic() - self._opened_s)
        if following is not None:
            self.program.measuring.open(following)
        else:
            self.program.go(ToQueue())
        self.program.say(f"{record.client}'s set is reviewed.")

    # What is asked for in dialogs

    def ask_for_page(self) -> None:
        self.door.ask_for_page()

    def ask_for_export(self) -> None:
        self.door.ask_for_export()

    def reword(self) -> None:
        finding = self.model.doc.finding
        if finding is not None:
            question = f"{finding.title}: what should the client read?"
            ask_words(
                self,
                "Reword",
                question,
                self.model.doc.cue(finding),
                lambda words: self.model.decide(finding, "reword", words),
            )

    def ask_for_answer(self) -> None:
        """An answer that the coach keeps becomes the note, with what this set gives filled in."""
        ask_for_answer(self.program, self.model, self)

    def ask_for_follow_up(self) -> None:
        """Something to come back to, for this client: what this set gives is offered first."""
        record = self.model.doc.record
        if record is not None:
            ask_follow_up(
                self,
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
            self,
            "Loose last reps",
            question,
            self.model.doc.settings.loose_last,
            10,
            lambda last: self.model.set_up(lambda doc: loosened(doc, last)),
        )

    def judge_as_it_fits(self) -> None:
        """Judge the set by the school that it was done as; undo takes it back."""
        record, opened = self.model.doc.record, self.opened
        if record is not None and opened is not None and opened.fit is not None:
            school = opened.fit.school.id
            self.program.library.change(record.id, {"school": record.school}, {"school": school})

    def ask_for_other_view(self) -> None:
        """Choose the recording that shows the same reps from another side."""
        record, opened = self.model.doc.record, self.opened
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
            self,
            "The same set from another side",
            question,
            list(others),
            "Review together",
            lambda words: self.program.library.join_views(others[words], record.id),
        )

    def part_views(self) -> None:
        """The other views are sets of their own again."""
        record = self.model.doc.record
        if record is not None:
            for other in self.program.library.library.other_views(record.id):
                self.program.library.join_views(other, record.id, joined=False)

    def ask_for_standard(self) -> None:
        """Propose a standard from the set that is open."""
        record, measured = self.model.doc.record, self.model.doc.measured
        if record is None or measured is None:
            return
        name = f"{measured.review.standard.name}, {record.client.split()[0]}"[:60]
        ask_words(
            self,
            "Standard from this set",
            "Name of the standard:",
            name,
            lambda words: self.program.go(ToStandards(model_set=measured, name=words)),
        )

    def show_rep_menu(self, at: QPoint) -> None:
        """What can be done to the reps at the clock, from the window's own actions."""
        window = self.window()
        actions = getattr(window, "actions_by_id", {})
        menu = QMenu(self)
        for id in REP_MENU:
            if not id:
                menu.addSeparator()
            elif id in actions:
                menu.addAction(actions[id])
        self.program.changed()
        menu.popup(at)

    def _clips(self) -> tuple[ClipFrames | None, ClipFrames | None]:
        """The frames of the open set's clip, and of the ghost's beside it."""
        doc, own, other = self.model.doc, None, None
        if self.opened is not None and doc.record is not None and doc.clip_wanted:
            own = self.program.clips.frames(self.opened)
        if own is not None and doc.ghost is not None:
            beside = self.opened if doc.ghost.own else self.ghost_of
            other = self.program.clips.frames(beside, second=True) if beside else None
        return own, other

    def _renew(self) -> None:
        """What is kept of the open set follows what was changed in it by hand."""
        if self.opened is not None and self.model.doc.measured is not None:
            self.program.measuring.renew(self.opened, self.model.doc.measured)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.sheet.set_colours(colours)

    # Sheets

    @property
    def stage(self) -> StageView:
        return self.sheet.stage

    def show_numbers(self) -> None:
        self.sheet.right.show_sheet(
            "What to say" if self.sheet.right.current == "Numbers" else "Numbers"
        )

    def choose_traces(self) -> None:
        self.sheet.below.show_sheet("Traces")
        self.sheet.ask_for_traces()

    # Comparison

    def compare_with(self, set_id: int) -> None:
        """Another set becomes the ghost."""
        record = self.model.doc.record
        if record is None:
            return

        def show(opened: OpenedSet) -> None:
            if (
                self.model.doc.record is None
                or self.model.doc.record.id != record.id
                or not opened.shown
            ):
                return  # another set was opened meanwhile
            self.ghost_of = opened
            words = f"the set of {day_words(opened.record.recorded)}"
            ghost = ghost_of(opened.shown, words, set_id)
            if ghost is None:
                self.program.say("That set has no reps to compare with.")
                return
            self.model.show_ghost(ghost)
            self.program.changed()

        self.program.measuring.look_up(set_id, show, "compare")

    def compare_with_last(self) -> None:
        """The set of this client and exercise before this one; again takes the ghost away."""
        if self.model.doc.ghost is not None:
            self.model.show_ghost(None)
        elif self.opened is None or not self.opened.earlier:
            self.program.say("There is no other set of this client and exercise yet.")
        else:
            self.sheet.right.show_sheet("Compare")
            self.compare_with(self.opened.earlier[0].id)

    # Two exercises in one recording

    def ask_to_split(self) -> None:
        """Ask for the other exercise of a superset, then propose where each was done."""
        record = self.model.doc.record
        if record is None:
            return
        catalogue = self.program.library.catalogue()
        names = {catalogue.standard(id).name: id for id in catalogue.ids() if id != record.standard}
        ask_which(
            self,
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
            dialog = SplitDialog(self, record, parts)
            dialog.accepted.connect(
                lambda: self.program.library.split(record, dialog.chosen(), self._split)
            )
            dialog.open()

        words = "Looking for both exercises"
        self.program.start(Job(words, Alone(run), "split", "now"), done)

    def _split(self, ids: list[int]) -> None:
        self.program.measuring.open(ids[0])
        self.program.say(f"One recording, {len(ids)} sets.")
