"""The document of the setup's place, what is read for it, and its steps of undo. Without Qt."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Lane, alone, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.setup import moving, wishing
from guide_arc.app.places.setup.arm_way import bent, next_school
from guide_arc.app.places.setup.document import SetupDocument, kit_words
from guide_arc.app.places.setup.keeping import Keeping
from guide_arc.app.places.setup.meaning import not_met
from guide_arc.app.services.destinations import ToSetup
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.find_setup import Room, Setup, Wish
from guide_arc.core.mechanics.room import TrainingRoom
from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import setup_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.setup.needs import SetupNeeds
    from guide_arc.app.services.setup_jobs import KnownForSetup

# A room without limits: every height to the ceiling, and any distance in a hall.
_HEIGHTS_M: Final = tuple(round(0.1 * i, 2) for i in range(27))
_DISTANCE_M: Final = (0.0, 4.0)
_SIDE_M: Final = (-2.0, 2.0)


class SetupModel:
    """shown : another document; moved : only the arm's place along the lift"""

    shown: Signal[()] = Signal()
    moved: Signal[()] = Signal()

    def __init__(self, program: SetupNeeds) -> None:
        self._program, self.doc = program, SetupDocument()
        self._keeping = Keeping(program, self.refresh)

    # Reading

    def refresh(self) -> None:
        doc = self.doc
        work = on_library(setup_jobs.read, doc.standard, doc.client or None, doc.school or None)
        self._program.start(Job("", work, "setup", "now"), self._came)

    def _came(self, known: KnownForSetup) -> None:
        if self.doc.known is None:
            # What finding a setup needs, loaded while the place's first picture is shown.
            ready = Job("", alone(setup_jobs.make_ready), "setup-ready")
            self._program.start(ready, lambda _none: None)
        self.show(self.doc.knowing(known))

    def ask_for(self, to: ToSetup) -> None:
        """Another exercise, client, wish or rep."""
        self.doc = self.doc.asking_for(to.standard, to.client, to.wish, to.rep, to.school)
        self.refresh()

    def take_school(self, school: str) -> None:
        self.doc = self.doc.as_school(school)
        self.refresh()

    def next_school(self) -> None:
        school = next_school(self.doc)
        if school:
            self.take_school(school)
        else:
            self._program.say("This standard has one school.")

    # Showing

    def show(self, doc: SetupDocument) -> None:
        """Another document, without a step of undo."""
        self.doc = doc
        self.shown.emit()
        self._program.changed()

    def go_to(self, at: int) -> None:
        """The arm at another sample of the lift."""
        self.doc = self.doc.going_to(at)
        self.moved.emit()

    # Changing the setup, each a step of undo

    def set(self, words: str, doc: SetupDocument, same: str = "") -> None:
        """Another kit, bench or bend; undo goes back to those of the document before."""
        before = self.doc

        def put(setup: SetupDocument) -> Callable[[], None]:
            return lambda: self.show(self.doc.with_setup_of(setup))

        self.show(doc)
        self._program.did(Step(words, ToSetup(), put(before), put(doc), same=same))

    def move(self, moved: moving.Moved | SetupDocument | str | None) -> None:
        """The result of moving something, as a step of undo if it changed anything."""
        if isinstance(moved, moving.Moved):
            self.set(moved.words, moved.doc, moved.same)
        elif isinstance(moved, SetupDocument):
            self.go_to(moved.at)
        elif moved is not None:
            self._program.say(moved)

    def let_go(self) -> None:
        """A drag is over: the next one is a separate step."""
        self._program.break_off()

    def bend(self, by_deg: float) -> None:
        """The elbow held more bent all along the lift."""
        if self.doc.on_rep:
            self._program.say("This is how the rep was done: M shows the standard's own path.")
            return
        try:
            self.set("Bend the elbow", bent(self.doc, by_deg), same="setup/bend")
        except BadInput as error:
            words = str(error)
            self._program.say(f"{words[:1].upper()}{words[1:]}.")

    # Keeping

    def keep(self, name: str) -> None:
        """Keep the setup for the client and exercise."""
        self._keeping.keep_setup(self.doc, name)

    def keep_room(self, room: TrainingRoom) -> None:
        self._keeping.keep_room(self.doc, room)

    def keep_band(self, name: str, band: MeasuredBand, take: Callable[[], None]) -> None:
        self._keeping.keep_band(self.doc, name, band, take)

    # Finding

    def want(self, wish: Wish) -> None:
        self.show(wishing.wishing(self.doc, wish))

    def find(self) -> None:
        """The setups that come nearest to the wish in this room; then, where they miss it, whether
        another room would do."""
        why = wishing.why_not(self.doc)
        if why:
            self._program.say(why)
            return
        wish = replace(self.doc.wish, room=wishing.room_for(self.doc))

        def came(found: tuple[Setup, ...]) -> None:
            found = wishing.with_the_load_first(self.doc, found)
            self.show(wishing.finding(self.doc, found))
            if found and not_met(found[0], wish):
                self._look_elsewhere(found, wish)

        self._start("Finding the setup", wish, came)

    def _look_elsewhere(self, found: tuple[Setup, ...], wish: Wish) -> None:
        def came(freed: tuple[Setup, ...]) -> None:
            best = freed[0] if freed else None
            if self.doc.found is not found:
                return
            if best is None or not_met(best, wish):
                words = "No place of the pull meets it on this motion; this is as near as it comes."
            else:
                where = kit_words(self.doc, best.kit, best.bench_deg, weight=False)
                words = f"The room stands in the way: it would take {where}."
            self.show(replace(self.doc, in_the_way=words))

        anywhere = Room(_HEIGHTS_M, _DISTANCE_M, _SIDE_M, wish.room.bench_deg)
        self._start("Trying the pull elsewhere", replace(wish, room=anywhere), came, "long")

    def _start(
        self,
        words: str,
        wish: Wish,
        came: Callable[[tuple[Setup, ...]], object],
        lane: Lane = "now",
    ) -> None:
        doc = self.doc
        if doc.kit is None or doc.plan is None:
            return
        own = doc.path if doc.on_rep else None
        work = alone(setup_jobs.find, doc.plan, doc.stature_m, doc.kit, wish, own)
        self._program.start(Job(words, work, "find-setup", lane), came)

    def use_found(self) -> None:
        found = self.doc.found_setup
        if found is not None:
            self.set("Stand as found", replace(self.doc, kit=found.kit, bench_deg=found.bench_deg))
