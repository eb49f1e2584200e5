"""The review place: one set, with its instruments about it, and what the coach does with it."""

from __future__ import annotations

from collections.abc import Mapping
from time import monotonic

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.contract.signal import silence
from guide_arc.app.places.review.asking import ReviewQuestions
from guide_arc.app.places.review.desk import ReviewProgramDesk
from guide_arc.app.places.review.document import done_noted, ghost_of
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.app.places.review.sheet import ReviewSheet
from guide_arc.app.places.review.stage_view import StageView
from guide_arc.app.services.destinations import ToQueue, ToReview
from guide_arc.app.services.set_jobs import OpenedSet
from guide_arc.app.widgets.clip_frames import ClipFrames
from guide_arc.app.widgets.soon import soon
from guide_arc.core.review.schools import differs_words
from guide_arc.drawings.days import day_words
from guide_arc.drawings.words import set_words
from guide_arc.lazily import lazily

with lazily():
    pass


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
        self.opened: OpenedSet | None = None
        self.asking = ReviewQuestions(program, model, self, lambda: self.opened)
        self._opened_s = monotonic()
        self.ghost_of: OpenedSet | None = None
        self.shown = False
        self.sheet = ReviewSheet(model, colours, self._clips)
        self.sheet.menu_asked.connect(self.asking.show_rep_menu)
        self.sheet.findings.reword_asked.connect(self.asking.reword)
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
        wanted = to.set_id if to.set_id is not None else self.program.sets.doc.chosen
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
        place, total = sets.doc.position(record.id)
        kind = {"waiting": "waiting", "done": "reviewed", None: "in all"}[sets.doc.state]
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
        self.model.open(opened.record, opened.shown, opened.that_day, opened.answers)
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
            following = self.program.sets.doc.beside(self.model.doc.record.id, 1)
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
        beside = self.program.sets.doc.beside(self.model.doc.record.id, by)
        if beside is not None:
            self.program.measuring.open(beside)
        else:
            self.program.say("That was the last set." if by > 0 else "This is the first set.")

    def done_and_next(self) -> None:
        """Take the set off the queue and open the next one that waits."""
        record = self.model.doc.record
        if record is None:
            return
        following = self.program.sets.doc.beside(record.id, 1)
        self.model.note(done_noted(self.model.doc, self.model.doc.notes.state != "done"))
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

    def _clips(self) -> tuple[ClipFrames | None, ClipFrames | None]:
        """The frames of the open set's clip, and of the ghost's next to it."""
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
        self.sheet.traces_menu()

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
