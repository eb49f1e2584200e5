"""An exercise standard: what a set of this exercise should look like, as numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Final, Literal

from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.track import View

Drive = Literal[
    "elbow_flexion",
    "shoulder_elevation",
    "shoulder_plane",
    "shoulder_hike",
    "trunk_lean",
    "trunk_side_lean",
]
# Drives that are the trunk's own, so that no arm differs from the other.
TRUNK_DRIVES: Final = ("trunk_lean", "trunk_side_lean")
Arms = Literal["both", "either", "one"]
# Seated is also lying face up: the legs are the same, the trunk leans back.
Base = Literal[
    "standing",
    "seated",
    "hinged",
    "kneeling",
    "prone",
    "plank",
    "pike",
    "on-hands",
    "side-lying",
]
# How the elbow travels, as coaches name it.
ElbowPath = Literal[
    "still",
    "close",
    "between",
    "wide",
    "leads",
    "level-arc",
    "arc-to-hip",
    "over-and-up",
    "turns-with-trunk",
]
HoldsOn = Literal["every", "first", "last", "first-and-last"]
Harm = Literal["spine", "joint", "effect"]

# What comes first when a coach can say only three things (domain: spine and neck first).
HARM_ORDER: Final[tuple[Harm, ...]] = ("spine", "joint", "effect")


@dataclass(frozen=True)
class ArmPose:
    """Where one arm is, in the body's own terms.

    elevation_deg, plane_deg, elbow_deg : as the measures of the same names
    forearm_toward : (out to its own side, up, ahead) in the trunk's frame: the way the
        forearm leaves the upper arm's line when the elbow bends
    grip_deg : how far the forearm is turned: 0 underhand (the palm faces the way the elbow bends),
        90 neutral, 180 overhand
    """

    elevation_deg: float
    plane_deg: float
    elbow_deg: float
    forearm_toward: tuple[float, float, float]
    grip_deg: float = 0.0


@dataclass(frozen=True)
class TrunkPose:
    """Where the trunk is at one end of the lift, for the left arm's rep; mirrored for the right's.

    lean_deg, side_lean_deg, twist_deg : as trunk_lean, trunk_side_lean and trunk_rotation
    hike_pct : as shoulder_hike
    round_deg : how far the spine is rounded, between lower and upper trunk
    """

    lean_deg: float
    side_lean_deg: float = 0.0
    twist_deg: float = 0.0
    hike_pct: float = 0.0
    round_deg: float = 0.0


@dataclass(frozen=True)
class Range:
    """The driving measure's intended span: lift goes from `from_deg` to `to_deg`."""

    from_deg: float
    to_deg: float
    tolerance_deg: float

    @property
    def direction(self) -> int:
        """+1 when lifting raises the driving measure, -1 when it lowers it."""
        return 1 if self.to_deg > self.from_deg else -1

    @property
    def size_deg(self) -> float:
        return abs(self.to_deg - self.from_deg)


@dataclass(frozen=True)
class Tempo:
    """Seconds asked for each phase; None if there is no target."""

    lower_s: float | None = None
    bottom_s: float | None = None
    lift_s: float | None = None
    top_s: float | None = None

    def __str__(self) -> str:
        parts = (self.lower_s, self.bottom_s, self.lift_s, self.top_s)
        return "-".join("x" if p is None else f"{p:g}" for p in parts)


@dataclass(frozen=True)
class Holds:
    """Which reps the tempo's holds are asked of, and how long the stretch before the first lift
    is."""

    on: HoldsOn = "every"
    opening_stretch_s: float = 0.0

    def asks(self, number: int, last: int) -> bool:
        """Whether a rep is one of those: they count from 1 to `last`."""
        return (
            self.on == "every"
            or (number == 1 and self.on in ("first", "first-and-last"))
            or (number == last and self.on in ("last", "first-and-last"))
        )


@dataclass(frozen=True)
class WayWords:
    """What a check says of one way in which it can be off; empty if its own words fit."""

    way: str
    title: str = ""
    why: str = ""
    cue: str = ""
    other_cues: tuple[str, ...] = ()
    felt: tuple[str, ...] = ()


@dataclass(frozen=True)
class CheckRule:
    """One check of a standard with its own limit.

    limit : in the check's unit; what it bounds is defined by the check
    harm : what is at stake, for the order in which things are said
    target : what the check compares with, if needed (an end-point's landmark, ...)
    at : the end of the lift at which an end-point is held against its target
    other_cues : other words for the cue, for a client to whom it says nothing
    felt : where a client may feel this fault
    ways : words for the ways in which it can be off, where one sentence does not fit them all
    """

    name: str
    limit: float
    harm: Harm
    title: str
    why: str
    cue: str
    target: str | None = None
    at: Literal["start", "turn"] = "turn"
    felt: tuple[str, ...] = ()
    ways: tuple[WayWords, ...] = ()
    other_cues: tuple[str, ...] = ()

    def words_for(self, way: str) -> WayWords:
        """Title, reason and cues for a way in which it is off, and where that is felt."""
        own = next((w for w in self.ways if w.way == way), WayWords(way))
        # A check's other own words are about no direction in particular.
        others = own.other_cues or self.other_cues
        return WayWords(
            way,
            own.title or self.title,
            own.why or self.why,
            own.cue or self.cue,
            others,
            own.felt or self.felt,
        )


@dataclass(frozen=True)
class PraiseLine:
    """A sentence of praise of a standard, and the checks that prove it where they are all ok.
    Without any it needs every check of the standard."""

    words: str
    proof: tuple[str, ...] = ()


@dataclass(frozen=True)
class Dose:
    """How much of it is usual.

    partials : partial reps asked for after the last full one
    of_parent : the plain lift's id, and the share of its weight to start this variant with; None if
        it is none"""

    reps: tuple[int, int]
    sets: tuple[int, int]
    rest_s: int
    load_step_kg: float
    partials: int = 0
    of_parent: tuple[str, float] | None = None


@dataclass(frozen=True)
class School:
    """A named set of changes to a standard, held by some practitioners."""

    id: str
    name: str
    why: str
    choose_when: str


@dataclass(frozen=True)
class Standard:
    """A standard as one school sees it. `schools[0]` is the strict one.

    pulley_m : where a cable comes from (out to the arm's side, up, ahead of the feet), or None
    anchor_m : the same for a band's anchor or the end that a bar turns about
    ways, backs : poses of the lift and, if it differs, of the lowering, each with its share of the
        path from the start to the turn
    across : where a rep ends that passes to the other side, the next one coming back
    trunk : at the start and at the turn
    line : the fibre line of the target region, see `mechanics.fibres`
    easier, harder : ids of standards
    rises_on : checks that must be ok before the weight rises, next to those of harm and of weight
    kit_kept : the pulley's or anchor's place comes from this client's saved setup, not from the
        usual place
    shown_from : by check the recordings that show it, a letter each: S in space, F front, B back, N
        the side of the arm in question, A the other side; empty if that was never tried"""

    id: str
    name: str
    region: str
    muscle: str
    pull: str
    held: str
    pulley_m: tuple[float, float, float] | None
    anchor_m: tuple[float, float, float] | None
    bench_deg: float | None
    arms: Arms
    base: Base
    trunk_lean_deg: tuple[float, float]
    drive: Drive
    range: Range
    tempo: Tempo
    dose: Dose
    start: ArmPose
    turn: ArmPose
    ways: tuple[tuple[float, ArmPose], ...]
    backs: tuple[tuple[float, ArmPose], ...]
    across: ArmPose | None
    trunk: tuple[TrunkPose, TrunkPose]
    holds: Holds
    elbow_path: ElbowPath
    line: str
    easier: tuple[str, ...]
    harder: tuple[str, ...]
    checks: tuple[CheckRule, ...]
    views: tuple[str, ...]
    cautions: tuple[str, ...]
    setup: str
    praise: tuple[PraiseLine, ...]
    school: School
    schools: tuple[School, ...] = field(default=())
    rises_on: tuple[str, ...] = ()
    kit_kept: bool = False
    shown_from: Mapping[str, str] = field(default_factory=dict, compare=False, repr=False)

    @property
    def drive_unit(self) -> Literal["deg", "pct"]:
        """The unit of the driving measure, and so of its range."""
        return "pct" if self.drive == "shoulder_hike" else "deg"

    def recommends(self, view: View) -> bool:
        """Whether this exercise is meant to be filmed from there; a recording in space always is.

        Where one side is good the other is as well: the body is seen in a mirror.
        """
        return view in ("none", *self.views) or (
            view in SIDES and not set(SIDES).isdisjoint(self.views)
        )

    def check(self, name: str) -> CheckRule | None:
        """The rule of this name, or None if the standard does not use it."""
        return next((rule for rule in self.checks if rule.name == name), None)
