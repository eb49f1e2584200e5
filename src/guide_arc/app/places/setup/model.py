"""What the setup's place shows and what is changed there. Without Qt."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Any, Final

import numpy as np

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, alone, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.setup.arm_way import ArmWay
from guide_arc.app.places.setup.beside import KitsBeside
from guide_arc.app.places.setup.dragging import Dragging
from guide_arc.app.places.setup.finder import Finder
from guide_arc.app.places.setup.joints import Joints
from guide_arc.app.places.setup.keeping import Keeping
from guide_arc.app.places.setup.meaning import Says, arms_words, fibre_words, meaning, setup_words
from guide_arc.app.places.setup.rooms import Rooms
from guide_arc.app.services.destinations import ToSetup
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.mechanics.find_setup import Room, Setup, Spare, Where, Wish
from guide_arc.core.mechanics.kit import AnchoredBar, Band, Cable, Chain, FreeWeight, Kit, Place
from guide_arc.core.mechanics.path_load import (
    USUAL_STATURE_M,
    PathLoad,
    PathOfArms,
    arms_on_path,
    elbow_way,
    load_along,
    loaded_joint,
    own_kit,
)
from guide_arc.core.mechanics.rep_path import RecordedRep
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.on_path import body_on_path
from guide_arc.drawings.setup_sheet import Ring, SetupState
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import setup_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.setup.needs import SetupNeeds
    from guide_arc.app.services.setup_jobs import Known
    from guide_arc.library.setups import KeptSetup

_WISHES: Final[tuple[Where | None, ...]] = (None, "stretched", "middle", "shortened", "even")
_SPARES: Final[tuple[tuple[Spare, ...], ...]] = ((), ("elbow",), ("wrist",), ("elbow", "wrist"))


class SetupModel:
    """shown : another setup, exercise or thing chosen; moved : only where the arm stands along the
    lift"""

    shown: Signal[()] = Signal()
    moved: Signal[()] = Signal()

    def __init__(self, program: SetupNeeds) -> None:
        self._program = program
        self.rooms, self.keeping = Rooms(self, program), Keeping(self, program)
        self.beside, self.joints, self.dragging = KitsBeside(self), Joints(self), Dragging(self)
        self.finder, self.way = Finder(self, program), ArmWay(self, program)
        self.known: Known | None = None
        self.standard, self.client = "cable-cross-raise-low", ""
        self.kit: Kit | None = None
        self.bench_deg: float | None = None
        self.wish = Wish()
        self.found: tuple[Setup, ...] = ()
        self.chosen = 0
        self.at = 100
        self.refused = ""
        self.rep: RecordedRep | None = None
        self.on_rep = False
        self._path: tuple[Any, dict[str, Array], PathOfArms] | None = None
        self._load: PathLoad | None = None

    # Reading

    def refresh(self) -> None:
        work = on_library(
            setup_jobs.read, self.standard, self.client or None, self.way.school or None
        )
        self._program.start(Job("", work, "setup", "now"), self._came)

    def make_ready(self) -> None:
        """What finding a setup needs, loaded beside the place's first picture."""
        work = alone(setup_jobs.make_ready)
        self._program.start(Job("", work, "setup-ready"), lambda _none: None)

    def _came(self, known: Known) -> None:
        if self.known is None:
            self.make_ready()
        other = self.known is None or self.known.plan != known.plan
        self.known = known
        if other or self.kit is None:
            self._path = None
            self.bench_deg, self.found, self.refused = None, (), ""
            try:
                self.kit = self._first_kit()
            except BadInput as error:
                self.kit, self.refused = None, str(error)
        self._changed()

    def _first_kit(self) -> Kit:
        """What a rep was done with, as far as it is known: the client's kept setup with the set's
        weight; else the standard's own."""
        rep = self.rep if self.on_rep else None
        kit = self.kept[-1].kit if rep and self.kept else own_kit(self.way.plan, self.path)
        if rep and rep.load_kg and isinstance(kit, FreeWeight | Cable | Chain):
            kit = replace(kit, kg=rep.load_kg)
        return kit

    def choose(
        self,
        standard: str | None = None,
        client: str | None = None,
        wish: Wish | None = None,
        rep: RecordedRep | None = None,
        school: str | None = None,
    ) -> None:
        """Another exercise, another client with their stature, a recorded rep, or the way of
        another school."""
        if standard is not None and standard != self.standard:
            self.standard, self.kit = standard, None
            self.way.forget()
        if client is not None and client != self.client:
            self.client, self._path = client, None
            self.way.forget()
        if school is not None:
            self.way.school = school
        if wish is not None:
            self.wish = wish
        if rep is not None:
            self.kit = None
        if rep is not None or (
            self.rep and (self.rep.standard, self.rep.client) != (self.standard, self.client)
        ):
            self.rep, self.on_rep, self.found = rep, rep is not None, ()
        self.refresh()

    def turn_to_rep(self) -> None:
        """The recorded rep, or the standard's own path."""
        if self.rep is not None:
            self.on_rep, self.found = not self.on_rep, ()
            self._changed()

    # What is shown

    @property
    def plan(self) -> Standard | None:
        return self.way.plan if self.known else None

    @property
    def room(self) -> Room:
        return self.rooms.room

    @property
    def kept(self) -> tuple[KeptSetup, ...]:
        return self.known.kept if self.known else ()

    @property
    def stature_m(self) -> float:
        client = self.known.client if self.known else None
        return (client.stature_m if client else None) or USUAL_STATURE_M

    @property
    def path(self) -> PathOfArms:
        return self._along()[2]

    def _along(self) -> tuple[Any, dict[str, Array], PathOfArms]:
        """The body along the lift; computed when the exercise, the stature or the bench is
        another."""
        plan = self.plan
        assert plan is not None
        rep = self.rep if self.on_rep else None
        key = (plan, self.stature_m, self.bench_deg, rep)
        if self._path is None or self._path[0] != key:
            points = rep.points if rep else body_on_path(plan, self.stature_m, self.bench_deg)
            share = rep.share if rep else _shares(len(points["left_wrist"]))
            self._path = (key, points, arms_on_path(points, plan, share, loaded_joint(plan)))
        return self._path

    @property
    def load(self) -> PathLoad | None:
        if self.kit is None or self.plan is None:
            return None
        if self._load is None:
            self._load = load_along(self.path, self.kit)
        return self._load

    @property
    def state(self) -> SetupState | None:
        load = self.load
        if load is None or self.kit is None:
            return None
        found = self.found_setup
        return SetupState(
            self._along()[1],
            self.at,
            self.kit,
            load,
            self.room.pulley_heights_m,
            found.load if found else None,
            found.kit if found else None,
        )

    @property
    def rings(self) -> tuple[Ring, ...]:
        """The kits that stand beside one another: a free weight, this setup, the found one."""
        load = self.load
        if load is None or load.curve.hardest is None:
            return ()
        if self.beside.way:
            return self.beside.rings()
        out = []
        if not isinstance(self.kit, FreeWeight):
            out.append(
                Ring("dumbbell", load_along(self.path, FreeWeight(10.0, "dumbbell")), "muted")
            )
        out.append(Ring("now", load, "actual"))
        found = self.found_setup
        if found is not None:
            out.append(Ring("found", found.load, "guide"))
        return tuple(out)

    @property
    def found_setup(self) -> Setup | None:
        return self.found[self.chosen] if 0 <= self.chosen < len(self.found) else None

    @property
    def can_move(self) -> bool:
        return isinstance(self.kit, Cable | Band)

    def _changed(self) -> None:
        self._load = None
        self.shown.emit()
        self._program.changed()

    def looked_anew(self) -> None:
        """Something beside the setup itself is another: what is shown of it is drawn anew."""
        self._changed()

    def words_of(self, kit: Kit, bench_deg: float | None, *, weight: bool = True) -> str:
        """`hole 8, two and a half shoes out, bench at 60°`"""
        return setup_words(
            kit,
            bench_deg,
            self.room,
            self.path,
            weight=weight,
            column=self.rooms.column_words,
            benched=self.plan is None or self.plan.bench_deg is not None,
        )

    def says(self) -> tuple[Says, ...]:
        """What the setup means, in plain sentences."""
        load = self.load
        if load is None or self.kit is None:
            return ()
        found = self.found_setup
        words = self.words_of(found.kit, found.bench_deg) if found else ""
        plan = self.plan
        assert plan is not None
        return (
            *meaning(load, self.kit, self.wish, found, words, self.finder.in_the_way),
            *(arms_words(load) if self.on_rep else ()),
            *self.way.says(),
            *self.joints.says(),
            *self.beside.says(),
            *fibre_words(elbow_way(self._along()[1]), plan.line),
        )

    # Changing the setup, each a step of undo

    def set(self, words: str, kit: Kit, bench_deg: float | None = None, same: str = "") -> None:
        before, before_bench, standard = self.kit, self.bench_deg, self.standard

        def put(what: Kit | None, bench: float | None) -> Callable[[], Task[Any] | None]:
            def act() -> None:
                if self.standard == standard:
                    self.kit, self.bench_deg = what, bench
                    self._changed()

            return act

        put(kit, bench_deg)()
        self._program.did(
            Step(words, ToSetup(), put(before, before_bench), put(kit, bench_deg), same=same)
        )

    def drag_to(
        self, side: str, spot: tuple[float, float, float], same: str = "setup/drag"
    ) -> None:
        """A pulley, anchor or pivot dragged; of two the other mirrors it, of one both hands have
        it."""
        kit = self.kit
        if isinstance(kit, AnchoredBar):
            self.set("Move the pivot", replace(kit, pivot_m=spot), self.bench_deg, same)
            return
        if not isinstance(kit, Cable | Band):
            return
        now = kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m
        one = tuple(now["left"]) == tuple(now["right"])
        x, y, z = spot[0], min(max(spot[1], 0.0), 2.6), spot[2]
        left = (x, y, z) if side == "left" or one else (-x, y, z)
        right = left if one else (-left[0], left[1], left[2])
        self._place(kit, left, right, same)

    def _place(
        self,
        kit: Cable | Band,
        left: tuple[float, float, float],
        right: tuple[float, float, float],
        same: str,
    ) -> None:
        spots: dict[Side, Place] = {"left": left, "right": right}
        moved = (
            replace(kit, pulley_m=spots) if isinstance(kit, Cable) else replace(kit, anchor_m=spots)
        )
        self.set("Move the pull", moved, self.bench_deg, same)

    def shift(self, by: tuple[float, float, float], same: str) -> None:
        kit = self.kit
        if not isinstance(kit, Cable | Band):
            return
        now = kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m
        x, y, z = now["left"]
        self.drag_to("left", (x + by[0], y + by[1], z + by[2]), same)

    def let_go(self) -> None:
        """A drag is over: the next one is a step of its own."""
        self._program.break_off()

    def notch(self, by: int) -> None:
        """The next hole up or down."""
        kit = self.kit
        holes = sorted(self.room.pulley_heights_m)
        if not isinstance(kit, Cable | Band) or not holes:
            return
        now = (kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m)["left"][1]
        way = [h for h in holes if (h > now + 1e-3 if by > 0 else h < now - 1e-3)]
        if not way:
            self._program.say("The column has no hole further that way.")
            return
        self.shift((0.0, (way[0] if by > 0 else way[-1]) - now, 0.0), "setup/hole")

    def step(self, by_m: float) -> None:
        """Nearer to the column or farther away."""
        kit = self.kit
        if isinstance(kit, Cable | Band):
            left = (kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m)["left"]
            ahead = 1.0 if left[2] >= float(self.path.hips[2]) else -1.0
            self.shift((0.0, 0.0, ahead * by_m), "setup/distance")

    def aside(self, by_m: float) -> None:
        self.shift((by_m, 0.0, 0.0), "setup/aside")

    def along(self, by: int) -> None:
        """The arm on along the lift."""
        self.go_to(self.at + by)

    def go_to(self, at: int) -> None:
        self.at = min(max(at, 0), 200)
        self.moved.emit()

    def usual(self) -> None:
        if self.plan is not None:
            self.set("The usual setup", own_kit(self.plan, self.path))

    # Wishing and finding

    def next_wish(self) -> None:
        at = _WISHES.index(self.wish.hardest)
        self.want(hardest=_WISHES[(at + 1) % len(_WISHES)])

    def want(self, **fields: Any) -> None:
        self.wish = replace(self.wish, **fields)
        self.found = ()
        self._changed()

    def toggle(self, name: str) -> None:
        self.want(**{name: not getattr(self.wish, name)})

    def next_spare(self) -> None:
        at = _SPARES.index(self.wish.spare) if self.wish.spare in _SPARES else 0
        self.want(spare=_SPARES[(at + 1) % len(_SPARES)])

    def find(self) -> None:
        """The setups that come nearest to the wish."""
        self.finder.find()

    def show_found(self, found: tuple[Setup, ...]) -> None:
        self.found, self.chosen = found, 0
        self._changed()

    def step_found(self, by: int) -> None:
        if self.found:
            self.chosen = (self.chosen + by) % len(self.found)
            self._changed()

    def choose_found(self, index: int) -> None:
        if 0 <= index < len(self.found):
            self.chosen = index
            self._changed()

    def use_found(self) -> None:
        found = self.found_setup
        if found is not None:
            self.set("Stand as found", found.kit, found.bench_deg)


def _shares(count: int) -> Array:
    return np.linspace(0.0, 1.0, count)
