"""An exercise standard: what a set of this exercise should look like, as numbers."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Final, Literal

Drive = Literal["elbow_flexion", "shoulder_elevation", "shoulder_plane"]
Arms = Literal["both", "either", "one"]
Base = Literal["standing", "seated", "hinged"]
Harm = Literal["spine", "joint", "effect"]
CheckName = Literal[
    "upper-arm-drift", "elbow-bend-change", "torso-swing", "torso-lean", "torso-twist",
    "shoulder-hike", "wrist-bend", "range-short", "range-over", "elbow-low", "elbow-high",
    "elbow-path", "hand-path", "end-point", "too-fast-lower", "too-fast-lift",
    "hold-missing", "momentum", "left-right", "line-of-pull", "slack-zone", "fatigue-drift",
]  # fmt: skip

# The unit in which a check's limit is written.
LIMIT_UNIT: Final[dict[str, Literal["deg", "pct"]]] = {
    "upper-arm-drift": "deg", "elbow-bend-change": "deg", "torso-swing": "deg",
    "torso-lean": "deg", "torso-twist": "deg", "wrist-bend": "deg", "range-short": "deg",
    "range-over": "deg", "left-right": "deg", "shoulder-hike": "pct", "elbow-low": "pct",
    "elbow-high": "pct", "elbow-path": "pct", "hand-path": "pct", "end-point": "pct",
    "too-fast-lower": "pct", "too-fast-lift": "pct", "hold-missing": "pct", "momentum": "pct",
    "line-of-pull": "deg", "slack-zone": "pct", "fatigue-drift": "pct",
}  # fmt: skip

# What comes first when a coach can say only three things (domain: spine and neck first).
HARM_ORDER: Final[tuple[Harm, ...]] = ("spine", "joint", "effect")


@dataclass(frozen=True)
class ArmPose:
    """Where one arm is, in the body's own terms.

    elevation_deg, plane_deg, elbow_deg : as the measures of the same names
    forearm_toward : (out to its own side, up, ahead) in the trunk's frame: the way the
        forearm leaves the upper arm's line when the elbow bends
    """

    elevation_deg: float
    plane_deg: float
    elbow_deg: float
    forearm_toward: tuple[float, float, float]


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
    """Seconds asked for each phase; None where nothing is asked."""

    lower_s: float | None = None
    bottom_s: float | None = None
    lift_s: float | None = None
    top_s: float | None = None

    def __str__(self) -> str:
        parts = (self.lower_s, self.bottom_s, self.lift_s, self.top_s)
        return "-".join("x" if p is None else f"{p:g}" for p in parts)


@dataclass(frozen=True)
class CheckRule:
    """One check of a standard with its own limit.

    limit : in the check's unit; what it bounds is defined by the check
    harm : what is at stake, for the order in which things are said
    target : what the check compares with, where it needs one (an end-point's landmark, ...)
    felt : where a client may feel this fault
    """

    name: CheckName
    limit: float
    harm: Harm
    title: str
    why: str
    cue: str
    target: str | None = None
    felt: tuple[str, ...] = ()


@dataclass(frozen=True)
class Dose:
    """How much of it is usual."""

    reps: tuple[int, int]
    sets: tuple[int, int]
    rest_s: int
    load_step_kg: float


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
    """

    id: str
    name: str
    region: str
    muscle: str
    pull: str
    held: str
    pulley_m: tuple[float, float, float] | None
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
    checks: tuple[CheckRule, ...]
    views: tuple[str, ...]
    cautions: tuple[str, ...]
    setup: str
    praise: str
    school: School
    schools: tuple[School, ...] = field(default=())

    def check(self, name: str) -> CheckRule | None:
        """The rule of this name, or None where the standard does not use it."""
        return next((rule for rule in self.checks if rule.name == name), None)
