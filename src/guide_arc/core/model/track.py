"""A recorded set as landmarks over time: what every measurement starts from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from types import MappingProxyType
from typing import Final, Literal, cast, get_args

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.calibration import NONE, Calibration
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.landmarks import KIT

Space = Literal["world", "image"]
View = Literal["none", "front", "back", "left", "right"]
SPACES: Final = ("world", "image")
# Who said where the joints are; "" where that is not known.
PointsFrom = Literal["", "marks", "pose", "laboratory"]
POINTS_FROM: Final = ("marks", "pose", "laboratory")
IMAGE_VIEWS: Final = ("front", "back", "left", "right")
# From where a clip was filmed, as a person says it: one of the four sides, or between two of them.
StatedView = Literal[
    "front", "back", "left", "right", "front-left", "front-right", "back-left", "back-right"
]
STATED_VIEWS: Final[tuple[StatedView, ...]] = get_args(StatedView)
# Between two sides: the side whose arm is seen best, and the camera's yaw from it, degrees.
BETWEEN_VIEWS: Final[Mapping[str, tuple[View, float]]] = MappingProxyType(
    {
        "front-left": ("left", -45.0),
        "front-right": ("right", 45.0),
        "back-left": ("left", 45.0),
        "back-right": ("right", -45.0),
    }
)

# A person's landmarks stay within a room, and the person is no giant; anything else was written
# in another unit.
_LARGEST_ROOM_M: Final = 60.0
_LARGEST_PERSON_M: Final = 4.0


@dataclass(frozen=True)
class SetFacts:
    """What the file itself says of the set. Every field may be unknown (None)."""

    standard: str | None = None
    load_kg: float | None = None
    subject_height_m: float | None = None
    recorded: str | None = None
    other: Mapping[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        object.__setattr__(self, "other", MappingProxyType(dict(self.other)))


@dataclass(frozen=True)
class CameraPlace:
    """A camera's place, as given by the user.

    between : the view between two sides that was said, such as "front-left"; "" for one of the four
        sides
    yaw_deg : how far it stood round the subject from the view that was said, the way that leads
        from the front to the left; pitch_deg : how far it looked down; roll_deg : how far it was
        tilted clockwise. None where not known
    """

    between: str = ""
    yaw_deg: float | None = None
    pitch_deg: float | None = None
    roll_deg: float | None = None

    @classmethod
    def stated(cls, view: StatedView) -> CameraPlace:
        """The place of a camera of which only the view was said."""
        return cls(view if view in BETWEEN_VIEWS else "")

    @property
    def off_deg(self) -> float:
        """How far it stood round from the track's own view."""
        return BETWEEN_VIEWS[self.between][1] if self.between else 0.0


@dataclass(frozen=True, eq=False)
class LandmarkTrack:
    """Where each landmark was at each sample.

    time_s : (T,) strictly rising from 0 or later; spacing may vary
    names : the L landmarks
    position : (T, L, 3) metres, world axes (x to the subject's left, y up, z the way
        they face); or (T, L, 2) pixels, x right and y down. NaN is a missing sample.
    confidence : (T, L) 0 to 1
    view : the side of the body the camera sees; "none" for world tracks; between two sides the one
        whose arm is seen best, with `camera.between` for what was said
    image_size : (width, height) in pixels; None for world tracks
    extra : columns that the format does not name, kept as their text
    calibration : the picture's scale and vertical, if known
    points_from : who said where the joints are

    Raises BadInput for anything that can't be a recording of a person.
    """

    time_s: NDArray[np.float64]
    names: tuple[str, ...]
    position: NDArray[np.float64]
    confidence: NDArray[np.float64]
    space: Space = "world"
    view: View = "none"
    image_size: tuple[int, int] | None = None
    facts: SetFacts = field(default_factory=SetFacts)
    extra: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    calibration: Calibration = NONE
    points_from: PointsFrom = ""
    camera: CameraPlace = CameraPlace()

    def __post_init__(self) -> None:
        time_s = np.array(self.time_s, dtype=np.float64)
        position = np.array(self.position, dtype=np.float64)
        confidence = np.array(self.confidence, dtype=np.float64)
        axes = 3 if self.space == "world" else 2
        want = (len(time_s), len(self.names), axes)
        if self.space not in SPACES:
            raise BadInput(f"space is {self.space!r}{did_you_mean(self.space, SPACES)}")
        if position.shape != want:
            raise BadInput(f"positions have shape {position.shape}, expected {want}")
        if confidence.shape != want[:2]:
            raise BadInput(f"confidences have shape {confidence.shape}, expected {want[:2]}")
        if len(set(self.names)) != len(self.names):
            raise BadInput("a landmark is named twice")
        if (self.space == "world") != (self.view == "none"):
            raise BadInput(f"view {self.view!r} does not go with {self.space} space")
        if self.space == "image" and self.image_size is None:
            raise BadInput("an image track needs the size of its picture")
        if len(time_s) and (not np.isfinite(time_s).all() or time_s[0] < 0):
            raise BadInput("times must be finite and not negative")
        if (np.diff(time_s) <= 0).any():
            raise BadInput("times must rise from row to row")
        if self.space == "world":
            _check_metres(position, self.names)
        for array in (time_s, position, confidence):
            array.flags.writeable = False
        object.__setattr__(self, "time_s", time_s)
        object.__setattr__(self, "position", position)
        object.__setattr__(self, "confidence", confidence)
        object.__setattr__(self, "extra", MappingProxyType(dict(self.extra)))

    @property
    def stated_view(self) -> str:
        """The view as it was said."""
        return self.camera.between or self.view

    @property
    def frames(self) -> int:
        return len(self.time_s)

    @property
    def duration_s(self) -> float:
        """From the first sample to one sample interval past the last."""
        if self.frames < 2:
            return 0.0
        return float(self.time_s[-1] - self.time_s[0] + np.median(np.diff(self.time_s)))

    @cached_property
    def frame_rate_hz(self) -> float:
        """The usual rate: one over the median interval. 0 with fewer than 2 frames."""
        return 0.0 if self.frames < 2 else float(1.0 / np.median(np.diff(self.time_s)))

    def has(self, name: str) -> bool:
        """Whether this landmark was seen at least once."""
        return name in self.names and bool(
            np.isfinite(self.position[:, self.names.index(name), 0]).any()
        )

    def point(self, name: str) -> NDArray[np.float64]:
        """(T, axes) of one landmark; all NaN if the track does not hold it."""
        if name not in self.names:
            return np.full((self.frames, self.position.shape[2]), np.nan)
        return self.position[:, self.names.index(name)]


def side_of(view: StatedView) -> View:
    """The side of the body that is seen best from a stated view."""
    return BETWEEN_VIEWS[view][0] if view in BETWEEN_VIEWS else cast(View, view)


def _check_metres(position: NDArray[np.float64], names: tuple[str, ...]) -> None:
    size = np.abs(position)
    largest = float(np.max(size, where=np.isfinite(size), initial=0.0))
    if largest > _LARGEST_ROOM_M:
        raise BadInput(
            f"positions reach {largest:.0f}, which can't be metres of a person; "
            "they must be in metres (millimetres divided by 1000)"
        )
    if 2.0 * largest <= _LARGEST_PERSON_M:
        return  # no two points lie further apart
    body = [i for i, name in enumerate(names) if name not in KIT]
    seen = position[:, body][np.isfinite(position[:, body]).all(axis=(1, 2))]
    if not seen.size:
        return
    extent = float(np.median(np.ptp(seen, axis=1).max(axis=-1)))
    if extent > _LARGEST_PERSON_M:
        raise BadInput(
            f"the person is {extent:.0f} m large, which can't be metres; "
            "positions must be in metres (centimetres divided by 100)"
        )
