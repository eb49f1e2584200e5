"""What the setup's place shows, as one frozen value. Everything done there makes another one of it.

Without Qt, and without the program: each rule of the place is a function of this value.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING, Literal, NamedTuple

import numpy as np

from guide_arc.app.places.setup.meaning import setup_words
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.mechanics.arm_way import with_bend
from guide_arc.core.mechanics.find_setup import Room, Setup, Wish
from guide_arc.core.mechanics.kit import Band, Cable, Chain, FreeWeight, Kit, Place
from guide_arc.core.mechanics.path_load import (
    USUAL_STATURE_M,
    PathLoad,
    PathOfArms,
    arms_on_path,
    load_along,
    loaded_joint,
    own_kit,
)
from guide_arc.core.mechanics.rep_path import RecordedRep
from guide_arc.core.mechanics.room import TrainingRoom
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.on_path import body_on_path
from guide_arc.drawings.setup_sheet import SetupState

if TYPE_CHECKING:
    from guide_arc.app.services.setup_jobs import KnownForSetup
    from guide_arc.library.setups import KeptSetup

# Nothing next to the setup, kits that ask for the same peak, or ten kilograms of each.
BesideWay = Literal["", "peak", "kilograms"]
SAMPLES = 201
_NO_WISH = Wish()


class BodyAlongLift(NamedTuple):
    """The body along the lift. points : landmark to (N, 3), metres"""

    points: dict[str, Array]
    path: PathOfArms


@dataclass(frozen=True, eq=False)
class SetupDocument:
    """standard : the id of the exercise; client : empty for nobody
    known : what the library says of both; None until it is read
    school : empty for the one that is preferred for the client
    bend_deg : of the elbow, in addition to the wished curve
    column : the column that the pulley is on; of one that is not there the first is taken
    kit : None if the exercise has none that resists; `refused` says why then
    found : setups for the wish, best first; chosen : one of them
    in_the_way : in words what keeps the wish from being met
    at : the sample of the lift at which the arm is drawn, from 0 to 200
    rep : a recorded rep; on_rep : it is shown in place of the standard's own path
    every_joint : the strip shows every joint that the setup loads
    """

    standard: str = "cable-cross-raise-low"
    client: str = ""
    known: KnownForSetup | None = None
    school: str = ""
    bend_deg: float = 0.0
    column: str = ""
    kit: Kit | None = None
    bench_deg: float | None = None
    wish: Wish = _NO_WISH
    found: tuple[Setup, ...] = ()
    chosen: int = 0
    in_the_way: str = ""
    at: int = 100
    refused: str = ""
    rep: RecordedRep | None = None
    on_rep: bool = False
    every_joint: bool = False
    beside: BesideWay = ""

    # What follows from it

    @cached_property
    def plan(self) -> Standard | None:
        """The standard as it is tried."""
        return _bent(self.known.plan, self.bend_deg) if self.known else None

    @property
    def training_room(self) -> TrainingRoom:
        return self.known.training_room if self.known else TrainingRoom()

    @property
    def room(self) -> Room:
        """What the room allows at the chosen column."""
        return self.training_room.with_column(self.column)

    @property
    def kept(self) -> tuple[KeptSetup, ...]:
        return self.known.kept if self.known else ()

    @property
    def stature_m(self) -> float:
        client = self.known.client if self.known else None
        return (client.stature_m if client else None) or USUAL_STATURE_M

    @cached_property
    def lift(self) -> BodyAlongLift:
        assert self.plan is not None, "asked for before anything is known of the exercise"
        return _lift(self.plan, self.stature_m, self.bench_deg, self.rep if self.on_rep else None)

    @property
    def path(self) -> PathOfArms:
        return self.lift.path

    @cached_property
    def load(self) -> PathLoad | None:
        if self.kit is None or self.plan is None:
            return None
        return load_along(self.path, self.kit)

    @property
    def state(self) -> SetupState | None:
        """What is drawn of it."""
        load, found = self.load, self.found_setup
        if load is None or self.kit is None:
            return None
        return SetupState(
            points=self.lift.points,
            at=self.at,
            kit=self.kit,
            load=load,
            holes_m=self.room.pulley_heights_m,
            found=found.load if found else None,
            found_kit=found.kit if found else None,
        )

    @property
    def found_setup(self) -> Setup | None:
        return self.found[self.chosen] if 0 <= self.chosen < len(self.found) else None

    @property
    def pull(self) -> Cable | Band | None:
        """The kit, where its line of pull can be moved."""
        return self.kit if isinstance(self.kit, Cable | Band) else None

    @property
    def words(self) -> str:
        return kit_words(self, self.kit, self.bench_deg) if self.kit else ""

    # Another one

    def asking_for(
        self,
        standard: str | None = None,
        client: str | None = None,
        wish: Wish | None = None,
        rep: RecordedRep | None = None,
        school: str | None = None,
    ) -> SetupDocument:
        """Another exercise, another client with their stature, a recorded rep, or another school's
        path; their data has not been read yet."""
        doc = self
        if standard is not None and standard != doc.standard:
            doc = replace(doc, standard=standard, kit=None, school="", bend_deg=0.0)
        if client is not None and client != doc.client:
            doc = replace(doc, client=client, school="", bend_deg=0.0)
        if school is not None:
            doc = replace(doc, school=school)
        if wish is not None:
            doc = replace(doc, wish=wish)
        if rep is not None:
            return replace(doc, kit=None, rep=rep, on_rep=True, found=())
        of_another = doc.rep and (doc.rep.standard, doc.rep.client) != (doc.standard, doc.client)
        return replace(doc, rep=None, on_rep=False, found=()) if of_another else doc

    def as_school(self, school: str) -> SetupDocument:
        """Another school's path, without a recorded rep."""
        return replace(self, school=school, bend_deg=0.0, on_rep=False, found=())

    def knowing(self, known: KnownForSetup) -> SetupDocument:
        """What the library says, with the usual kit where the exercise is another one."""
        other = self.known is None or self.known.plan != known.plan or self.kit is None
        doc = replace(self, known=known)
        if not other:
            return doc
        doc = replace(doc, bench_deg=None, found=(), refused="", kit=None)
        try:
            return replace(doc, kit=doc._first_kit())
        except BadInput as error:
            return replace(doc, refused=str(error))

    def _first_kit(self) -> Kit:
        """The kit of a recorded rep, if known: the client's kept setup with the set's
        weight; otherwise the standard's own."""
        rep = self.rep if self.on_rep else None
        kit = self.kept[-1].kit if rep and self.kept else self.usual_kit()
        if rep and rep.load_kg and isinstance(kit, FreeWeight | Cable | Chain):
            kit = replace(kit, kg=rep.load_kg)
        return kit

    def usual_kit(self) -> Kit:
        """The standard's own. Raises BadInput if it has none that resists."""
        assert self.plan is not None
        return own_kit(self.plan, self.path)

    def turned_to_rep(self) -> SetupDocument:
        """The recorded rep, or the standard's own path again."""
        return replace(self, on_rep=not self.on_rep, found=()) if self.rep is not None else self

    def going_to(self, at: int) -> SetupDocument:
        """The arm at another sample of the lift; what is loaded stays as it is."""
        doc = replace(self, at=min(max(at, 0), SAMPLES - 1))
        for name in ("plan", "lift", "load"):
            if name in self.__dict__:
                doc.__dict__[name] = self.__dict__[name]
        return doc

    def with_setup_of(self, other: SetupDocument) -> SetupDocument:
        """Kit, bench and elbow as in another document; of another exercise nothing."""
        if other.standard != self.standard:
            return self
        bend = other.bend_deg if other.school == self.school else self.bend_deg
        return replace(self, kit=other.kit, bench_deg=other.bench_deg, bend_deg=bend)


def kit_words(doc: SetupDocument, kit: Kit, bench_deg: float | None, *, weight: bool = True) -> str:
    """`hole 8, two and a half shoes out, bench at 60°`, in the room of a document"""
    at = doc.training_room.column(doc.column)
    several = at is not None and len(doc.training_room.columns) > 1
    return setup_words(
        kit,
        bench_deg,
        doc.room,
        doc.path,
        weight=weight,
        column=f" of the {at.name}" if several and at is not None else "",
        benched=doc.plan is None or doc.plan.bench_deg is not None,
    )


def spots_of_pull(kit: Cable | Band) -> dict[Side, Place]:
    """Where the pull of each hand comes from, metres."""
    return dict(kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m)


@lru_cache(maxsize=4)
def _bent(plan: Standard, bend_deg: float) -> Standard:
    return with_bend(plan, bend_deg)


@lru_cache(maxsize=4)
def _lift(
    plan: Standard, stature_m: float, bench_deg: float | None, rep: RecordedRep | None
) -> BodyAlongLift:
    """Kept for the last few: dragging the pull leaves the body as it is."""
    points = rep.points if rep else body_on_path(plan, stature_m, bench_deg)
    share = rep.share if rep else np.linspace(0.0, 1.0, len(points["left_wrist"]))
    return BodyAlongLift(dict(points), arms_on_path(points, plan, share, loaded_joint(plan)))
