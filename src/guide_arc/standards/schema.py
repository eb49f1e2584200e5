"""The form of a standard's file. Every key says what it must be when it is wrong."""

from __future__ import annotations

from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from guide_arc.core.checks.registry import specs
from guide_arc.core.kinematics.endpoints import TARGETS
from guide_arc.core.mechanics.fibres import FIBRES
from guide_arc.core.model.errors import did_you_mean
from guide_arc.core.model.standard import Base, Drive, ElbowPath, HoldsOn

Degrees = Annotated[float, Field(ge=-180, le=180)]
Seconds = Annotated[float, Field(ge=0, le=60)]

# The form that this program writes; older ones are brought up to it (`migrate.py`).
SCHEMA_VERSION: Final = 2
Region = Literal[
    "chest-upper",
    "chest-lower",
    "front-shoulder",
    "side-shoulder",
    "rear-shoulder",
    "traps",
    "back",
    "elbow-flexors",
    "triceps",
    "trunk",
]
# Degrees that the forearm is turned from underhand.
GRIPS: Final[dict[str, float]] = {"underhand": 0.0, "neutral": 90.0, "overhand": 180.0}

# Ways the forearm can lie off the upper arm's line: (out to its own side, up, ahead).
TOWARD: dict[str, tuple[float, float, float]] = {
    "ahead": (0, 0, 1),
    "back": (0, 0, -1),
    "up": (0, 1, 0),
    "down": (0, -1, 0),
    "in": (-1, 0, 0),
    "out": (1, 0, 0),
    "ahead-and-in": (-0.5, 0, 1),
    "ahead-and-up": (0, 1, 1),
    "ahead-and-down": (0, -0.35, 1),
    "in-and-up": (-1, 1, 0),
    "up-and-in": (-0.35, 1, 0),
}


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


Place = tuple[float, float, float]


class KitForm(_Part):
    pull: Literal[
        "free-weight",
        "cable",
        "band",
        "chain",
        "body-weight",
        "assisted",
        "machine",
        "anchored-bar",
    ] = Field(description="What resists, and so which way it pulls.")
    held: Literal[
        "bar",
        "dumbbell",
        "dumbbells",
        "rope",
        "handle",
        "handles",
        "trap-bar",
        "plate",
        "band",
        "chains",
        "pads",
        "none",
    ] = Field(description="What the hands hold.")
    pulley: Place | None = Field(
        default=None,
        description=(
            "Where a cable comes from, metres from the middle between the feet: out to the arm's"
            " own side, up, ahead."
        ),
    )
    anchor: Place | None = Field(
        default=None,
        description=(
            "The same for what a band is tied to, or the end that an anchored bar turns about."
        ),
    )
    bench_deg: float | None = Field(
        default=None,
        ge=0,
        le=90,
        description="The bench's back, degrees above level; none without a bench.",
    )

    @model_validator(mode="after")
    def _comes_from_somewhere(self) -> KitForm:
        if (self.pull == "cable") != (self.pulley is not None):
            raise ValueError(
                "a cable needs a pulley = [out, up, ahead] in metres, and nothing else has one"
            )
        if (self.pull in ("band", "anchored-bar")) != (self.anchor is not None):
            raise ValueError(
                "a band and an anchored bar need an anchor = [out, up, ahead] in metres, and"
                " nothing else has one"
            )
        return self


class PostureForm(_Part):
    base: Base = Field(description="What carries the body. Seated is also lying face up.")
    trunk_lean_deg: tuple[Degrees, Degrees] = Field(
        description=(
            "The trunk's lean that the setup asks for: forward is positive, -90 lies face up."
        )
    )

    @model_validator(mode="after")
    def _rising(self) -> PostureForm:
        if self.trunk_lean_deg[0] >= self.trunk_lean_deg[1]:
            raise ValueError("the first lean must be smaller than the second")
        return self


class ViewsForm(_Part):
    best: list[Literal["front", "back", "left", "right"]] = Field(
        min_length=1, description="Where to film from, best first."
    )


class TargetForm(_Part):
    muscle: str = Field(min_length=2, description="What should work, as a coach says it.")
    line: str = Field(description="The region's line from origin to insertion.")

    @model_validator(mode="after")
    def _known_line(self) -> TargetForm:
        if self.line not in FIBRES:
            raise ValueError(
                f"there is no line {self.line!r}{did_you_mean(self.line, FIBRES)}; "
                f"it must be one of {', '.join(FIBRES)}"
            )
        return self


class RangeForm(_Part):
    from_deg: float | None = Field(
        default=None, ge=-180, le=180, description="Where the lift starts"
    )
    to_deg: float | None = Field(default=None, ge=-180, le=180, description="Where it turns")
    tolerance_deg: float | None = Field(
        default=None, gt=0, le=45, description="How far from either end is near enough"
    )
    from_pct: float | None = Field(
        default=None, ge=-50, le=100, description="The same for a shrug, percent of the trunk"
    )
    to_pct: float | None = Field(
        default=None, ge=-50, le=100, description="The same for a shrug, percent of the trunk"
    )
    tolerance_pct: float | None = Field(
        default=None, gt=0, le=45, description="The same for a shrug, percent of the trunk"
    )

    @model_validator(mode="after")
    def _some_range(self) -> RangeForm:
        deg = (self.from_deg, self.to_deg, self.tolerance_deg)
        pct = (self.from_pct, self.to_pct, self.tolerance_pct)
        if (None in deg) == (None in pct) or any(
            v is not None for v in (deg if None in deg else pct)
        ):
            raise ValueError(
                "from, to and tolerance are all three in _deg, or all three in _pct for a shrug"
            )
        if None in pct and abs(self.ends[1] - self.ends[0]) < 15:
            raise ValueError("from_deg and to_deg must be at least 15 degrees apart")
        if None in deg and abs(self.ends[1] - self.ends[0]) < 5:
            raise ValueError("from_pct and to_pct must be at least 5 percent apart")
        return self

    @property
    def unit(self) -> Literal["deg", "pct"]:
        return "deg" if self.from_deg is not None else "pct"

    @property
    def ends(self) -> tuple[float, float, float]:
        """From, to and tolerance in the range's own unit."""
        deg = (self.from_deg, self.to_deg, self.tolerance_deg)
        pct = (self.from_pct, self.to_pct, self.tolerance_pct)
        a, b, c = deg if self.from_deg is not None else pct
        assert a is not None
        assert b is not None
        assert c is not None
        return a, b, c


class TempoForm(_Part):
    lower_s: Seconds | None = Field(
        default=None, description="Seconds for the way down; none asks nothing."
    )
    bottom_s: Seconds | None = Field(default=None, description="The pause before the next lift.")
    lift_s: Seconds | None = Field(default=None, description="Seconds for the way up.")
    top_s: Seconds | None = Field(default=None, description="The hold at the end of the lift.")


class HoldsForm(_Part):
    on: HoldsOn = Field(default="every", description="The reps that the holds are asked of.")
    opening_stretch_s: Seconds = Field(
        default=0.0, description="A stretch held before the first lift."
    )


class DoseForm(_Part):
    reps: tuple[int, int] = Field(description="Fewest and most reps of a set.")
    sets: tuple[int, int] = Field(description="Fewest and most sets.")
    rest_s: int = Field(ge=0, le=900, description="Rest between sets.")
    load_step_kg: float = Field(gt=0, le=20, description="The next weight.")
    of_parent: dict[str, float] = Field(
        default={},
        description=(
            "The plain lift that this is a variant of, and the share of its weight to start with."
        ),
    )
    partials: int = Field(
        default=0, ge=0, le=20, description="Partial reps asked for after the last full one."
    )


class ArmForm(_Part):
    elevation_deg: float = Field(
        ge=0, le=180, description="0 hanging along the trunk, 90 level, 180 overhead."
    )
    plane_deg: Degrees = Field(
        description="0 out to the side, 90 ahead, above 90 across, negative behind."
    )
    elbow_deg: float = Field(ge=0, le=160, description="The elbow's bend; 0 is straight.")
    forearm_toward: str | Place = Field(
        default="ahead",
        description="The way the forearm leaves the upper arm's line: a word, or [out, up, ahead].",
    )
    grip: str | float = Field(
        default="underhand",
        description="underhand, neutral or overhand, or degrees from underhand.",
    )

    @model_validator(mode="after")
    def _known_way(self) -> ArmForm:
        if isinstance(self.forearm_toward, str) and self.forearm_toward not in TOWARD:
            raise ValueError(
                f"forearm_toward must be one of {', '.join(TOWARD)}, or [out, up, ahead]"
            )
        if isinstance(self.grip, str) and self.grip not in GRIPS:
            raise ValueError(f"grip must be one of {', '.join(GRIPS)}, or degrees from underhand")
        return self


class TrunkForm(_Part):
    lean_deg: Degrees | None = None
    side_lean_deg: Degrees = 0.0
    twist_deg: Degrees = 0.0
    hike_pct: float = Field(default=0.0, ge=0, le=30)
    round_deg: float = Field(
        default=0.0,
        ge=0,
        le=90,
        description="How far the spine is rounded: the angle between lower and upper trunk.",
    )


class PoseForm(_Part):
    at: Literal["start", "way", "turn", "back", "across"] = Field(
        description=(
            "way is on the lift, back on the lower; across is where a rep ends that passes to the"
            " other side."
        )
    )
    share: float | None = Field(default=None, gt=0, lt=1)
    arm: ArmForm
    trunk: TrunkForm | None = None

    @model_validator(mode="after")
    def _share_of_ways(self) -> PoseForm:
        if (self.at in ("way", "back")) != (self.share is not None):
            raise ValueError(
                "a pose on the way or back needs a share of the lift between 0 and 1; others have"
                " none"
            )
        if self.trunk is not None and self.at not in ("start", "turn"):
            raise ValueError("only the start and the turn say where the trunk is; take it out here")
        return self


class WayForm(_Part):
    title: str = Field(default="", max_length=40, description="The fault in a few words.")
    why: str = Field(default="", description="Why it matters.")
    cue: str = Field(default="", max_length=80, description="What is said to the client.")
    other_cues: list[str] = Field(default=[], description="Other words for the same, one a try.")
    felt: list[str] = Field(default=[], description="Where a client may feel this way of it.")


class CheckForm(_Part):
    name: str = Field(description="One of docs/checks.md.")
    limit_deg: float | None = Field(default=None, ge=0, le=180, description="The limit, in degrees")
    limit_pct: float | None = Field(default=None, ge=0, le=400, description="The limit, in percent")
    target: str | None = Field(default=None, description="What an end-point is held against.")
    at: Literal["start", "turn"] | None = Field(
        default=None, description="The end of the lift at which an end-point is looked at."
    )
    harm: Literal["spine", "joint", "effect"] = Field(description="What is at stake.")
    title: str = Field(min_length=3, max_length=40, description="The fault in a few words.")
    why: str = Field(min_length=10, description="Why it matters.")
    cue: str = Field(min_length=5, max_length=80, description="What is said to the client.")
    other_cues: list[str] = Field(default=[], description="Other words for the same, one a try.")
    felt: list[str] = Field(default=[], description="Where a client may feel the fault.")
    ways: dict[str, WayForm] = Field(
        default={}, description="Other words for one of the ways in which it can be off."
    )

    @model_validator(mode="after")
    def _usable(self) -> CheckForm:
        spec = specs().get(self.name)
        if spec is None:
            raise ValueError(
                f"there is no check {self.name!r}; it must be one of {', '.join(sorted(specs()))}"
            )
        given = {"deg": self.limit_deg, "pct": self.limit_pct}
        unit = spec.limit_unit("deg")
        only = [u for u, v in given.items() if v is not None]
        if only != [unit] and not (len(only) == 1 and spec.unit == "drive"):
            raise ValueError(f"{self.name} needs limit_{unit}, and no limit in another unit")
        unknown = [w for w in self.ways if w not in spec.ways]
        if unknown:
            raise ValueError(
                f"{self.name} has no way {unknown[0]!r}; it has {', '.join(spec.ways) or 'none'}"
            )
        if self.at is not None and not spec.has_target:
            raise ValueError("only an end-point has an end; take at out")
        if spec.has_target != (self.target is not None):
            raise ValueError("end-point needs a target, and no other check has one")
        if self.target is not None and self.target not in TARGETS:
            raise ValueError(f"target must be one of {', '.join(TARGETS)}")
        return self

    @property
    def unit(self) -> Literal["deg", "pct"]:
        return "deg" if self.limit_deg is not None else "pct"

    @property
    def limit(self) -> float:
        limit = self.limit_deg if self.limit_deg is not None else self.limit_pct
        assert limit is not None
        return limit


class PraiseForm(_Part):
    words: str = Field(min_length=5, description="As the client reads it.")
    proof: list[str] = Field(
        min_length=1, description="The checks that, all ok, prove every part of the sentence."
    )


class SchoolForm(_Part):
    id: str = Field(
        pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$",
        description="Schools of one id are one school in all files.",
    )
    name: str = Field(min_length=3, description="As practitioners say it.")
    why: str = Field(default="", description="Why some hold it.")
    choose_when: str = Field(default="", description="When a coach would choose it.")
    set: dict[str, float | str | list[float]] = Field(
        default={},
        description="Keys of this file with other values, such as `check.torso-swing.limit_deg`.",
    )
    add: list[CheckForm] = Field(default=[], description="Checks that only this school asks.")
    drop: list[str] = Field(default=[], description="Checks that it does not ask.")


class StandardForm(_Part):
    """One exercise standard, as its file holds it."""

    schema_version: Literal[2] = Field(default=SCHEMA_VERSION, description="The form of this file.")
    id: str = Field(
        pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$",
        max_length=60,
        description="Small letters, digits and hyphens; an own file is named by it.",
    )
    name: str = Field(
        min_length=3, max_length=60, description="As people call it, by kit and position."
    )
    region: Region = Field(description="What it is grouped by.")
    arms: Literal["both", "either", "one"] = Field(
        description="both together; either together or in turn; one at a time"
    )
    setup: str = Field(min_length=10, description="What the client sets up, in a sentence.")
    praise: (
        Annotated[str, Field(min_length=5)] | Annotated[list[PraiseForm], Field(min_length=1)]
    ) = Field(
        description=(
            "What is said when it was right: a sentence that needs every check, or sentences with"
            " their proof."
        )
    )
    kit: KitForm
    posture: PostureForm
    views: ViewsForm
    target: TargetForm
    elbow_path: ElbowPath = Field(description="How the elbow travels.")
    drive: Drive = Field(description="The measure that counts the reps.")
    range: RangeForm
    tempo: TempoForm
    holds: HoldsForm = HoldsForm()
    dose: DoseForm
    cautions: list[str] = Field(description="Ids of `cautions.toml`.")
    rises_on: list[str] = Field(
        default=[],
        description=(
            "Checks that must be ok before the weight rises, beside those of harm and of weight."
        ),
    )
    easier: list[str] = Field(default=[], description="Ids of easier versions.")
    harder: list[str] = Field(default=[], description="Ids of progressions.")
    pose: list[PoseForm]
    check: list[CheckForm]
    school: list[SchoolForm] = Field(min_length=1, description="The first one is the strict one.")

    @model_validator(mode="after")
    def _whole(self) -> StandardForm:
        for at in ("start", "turn"):
            if sum(p.at == at for p in self.pose) != 1:
                raise ValueError(f"pose needs exactly one entry with at = {at!r}")
        if sum(p.at == "across" for p in self.pose) > 1:
            raise ValueError("pose has more than one entry with at = 'across'; keep one of them")
        for kind, names in (
            ("check", [c.name for c in self.check]),
            ("school", [s.id for s in self.school]),
        ):
            double = next((n for n in names if names.count(n) > 1), None)
            if double:
                raise ValueError(f"{kind} {double!r} stands twice; keep one of them")
        unknown = next((n for n in self.rises_on if n not in specs()), None)
        if unknown:
            raise ValueError(f"rises_on names {unknown!r}, which is no check")
        self._praise_has_proof()
        unit = "pct" if self.drive == "shoulder_hike" else "deg"
        if self.range.unit != unit:
            raise ValueError(f"a range of {self.drive} is in _{unit}")
        for check in self.check:
            if specs()[check.name].unit == "drive" and check.unit != unit:
                raise ValueError(f"{check.name} of {self.drive} needs limit_{unit}")
        return self

    def _praise_has_proof(self) -> None:
        """A school may drop a check: a sentence that it proves is not said then."""
        for line in [] if isinstance(self.praise, str) else self.praise:
            unknown = next((n for n in line.proof if n not in specs()), None)
            if unknown:
                raise ValueError(f"praise is proved by {unknown!r}, which is no check")
