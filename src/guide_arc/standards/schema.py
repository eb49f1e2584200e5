"""The form of a standard's file. Every key says what it must be when it is wrong."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from guide_arc.core.checks.registry import CHECKS
from guide_arc.core.kinematics.endpoints import TARGETS
from guide_arc.core.model.standard import LIMIT_UNIT

Degrees = Annotated[float, Field(ge=-180, le=180)]
Seconds = Annotated[float, Field(ge=0, le=60)]

# Ways the forearm can lie off the upper arm's line: (out to its own side, up, ahead).
TOWARD: dict[str, tuple[float, float, float]] = {
    "ahead": (0, 0, 1), "back": (0, 0, -1), "up": (0, 1, 0), "down": (0, -1, 0),
    "in": (-1, 0, 0), "out": (1, 0, 0), "ahead-and-in": (-0.5, 0, 1), "ahead-and-up": (0, 1, 1),
    "ahead-and-down": (0, -0.35, 1), "in-and-up": (-1, 1, 0), "up-and-in": (-0.35, 1, 0),
}  # fmt: skip


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class KitForm(_Part):
    pull: Literal["free-weight", "cable", "band", "body-weight", "machine", "anchored-bar"]
    held: Literal["bar", "dumbbell", "dumbbells", "rope", "handle", "handles", "none"]
    # Where a cable comes from, metres from the middle between the feet: out to the arm's own
    # side, up, ahead.
    pulley: tuple[float, float, float] | None = None

    @model_validator(mode="after")
    def _cable_has_pulley(self) -> KitForm:
        if (self.pull == "cable") != (self.pulley is not None):
            raise ValueError(
                "a cable needs a pulley = [out, up, ahead] in metres, and nothing else has one"
            )
        return self


class PostureForm(_Part):
    base: Literal["standing", "seated", "hinged"]
    trunk_lean_deg: tuple[Degrees, Degrees]

    @model_validator(mode="after")
    def _rising(self) -> PostureForm:
        if self.trunk_lean_deg[0] >= self.trunk_lean_deg[1]:
            raise ValueError("the first lean must be smaller than the second")
        return self


class ViewsForm(_Part):
    best: list[Literal["front", "back", "left", "right"]] = Field(min_length=1)


class TargetForm(_Part):
    muscle: str = Field(min_length=2)


class RangeForm(_Part):
    from_deg: Degrees
    to_deg: Degrees
    tolerance_deg: float = Field(gt=0, le=45)

    @model_validator(mode="after")
    def _some_range(self) -> RangeForm:
        if abs(self.to_deg - self.from_deg) < 15:
            raise ValueError("from_deg and to_deg must be at least 15 degrees apart")
        return self


class TempoForm(_Part):
    lower_s: Seconds | None = None
    bottom_s: Seconds | None = None
    lift_s: Seconds | None = None
    top_s: Seconds | None = None


class DoseForm(_Part):
    reps: tuple[int, int]
    sets: tuple[int, int]
    rest_s: int = Field(ge=0, le=900)
    load_step_kg: float = Field(gt=0, le=20)


class ArmForm(_Part):
    elevation_deg: float = Field(ge=0, le=180)
    plane_deg: Degrees
    elbow_deg: float = Field(ge=0, le=160)
    forearm_toward: str = "ahead"

    @model_validator(mode="after")
    def _known_way(self) -> ArmForm:
        if self.forearm_toward not in TOWARD:
            raise ValueError(f"forearm_toward must be one of {', '.join(TOWARD)}")
        return self


class PoseForm(_Part):
    at: Literal["start", "way", "turn"]
    share: float | None = Field(default=None, gt=0, lt=1)
    arm: ArmForm

    @model_validator(mode="after")
    def _share_of_ways(self) -> PoseForm:
        if (self.at == "way") != (self.share is not None):
            raise ValueError(
                "a pose on the way needs a share of the lift between 0 and 1; others have none"
            )
        return self


class CheckForm(_Part):
    name: str
    limit_deg: float | None = Field(default=None, ge=0, le=180)
    limit_pct: float | None = Field(default=None, ge=0, le=200)
    target: str | None = None
    harm: Literal["spine", "joint", "effect"]
    title: str = Field(min_length=3, max_length=40)
    why: str = Field(min_length=10)
    cue: str = Field(min_length=5, max_length=80)
    felt: list[str] = []

    @model_validator(mode="after")
    def _usable(self) -> CheckForm:
        if self.name not in CHECKS:
            raise ValueError(
                f"there is no check {self.name!r}; it must be one of {', '.join(sorted(CHECKS))}"
            )
        unit = LIMIT_UNIT[self.name]
        given = {"deg": self.limit_deg, "pct": self.limit_pct}
        wrong = "pct" if unit == "deg" else "deg"
        if given[unit] is None or given[wrong] is not None:
            raise ValueError(f"{self.name} needs limit_{unit}, and no limit in another unit")
        if (self.name == "end-point") != (self.target is not None):
            raise ValueError("end-point needs a target, and no other check has one")
        if self.target is not None and self.target not in TARGETS:
            raise ValueError(f"target must be one of {', '.join(TARGETS)}")
        return self

    @property
    def limit(self) -> float:
        limit = self.limit_deg if self.limit_deg is not None else self.limit_pct
        assert limit is not None
        return limit


class SchoolForm(_Part):
    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    name: str = Field(min_length=3)
    why: str = ""
    choose_when: str = ""
    set: dict[str, float | str | list[float]] = {}
    add: list[CheckForm] = []
    drop: list[str] = []


class StandardForm(_Part):
    """One exercise standard, as its file holds it."""

    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    name: str = Field(min_length=3, max_length=60)
    region: str
    arms: Literal["both", "either", "one"]
    setup: str = Field(min_length=10)
    praise: str = Field(min_length=5)
    kit: KitForm
    posture: PostureForm
    views: ViewsForm
    target: TargetForm
    drive: Literal["elbow_flexion", "shoulder_elevation", "shoulder_plane"]
    range: RangeForm
    tempo: TempoForm
    dose: DoseForm
    cautions: list[str]
    pose: list[PoseForm]
    check: list[CheckForm]
    school: list[SchoolForm] = Field(min_length=1)

    @model_validator(mode="after")
    def _whole(self) -> StandardForm:
        for at in ("start", "turn"):
            if sum(p.at == at for p in self.pose) != 1:
                raise ValueError(f"pose needs exactly one entry with at = {at!r}")
        for kind, names in (
            ("check", [c.name for c in self.check]),
            ("school", [s.id for s in self.school]),
        ):
            double = next((n for n in names if names.count(n) > 1), None)
            if double:
                raise ValueError(f"{kind} {double!r} stands twice; keep one of them")
        return self
