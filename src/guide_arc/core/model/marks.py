"""What the coach marks on a clip's picture: joints and kit at key frames, lines of known length or
way."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType
from typing import Final, Literal

from guide_arc.core.model.landmarks import BODY, KIT, SIDES, Side, other
from guide_arc.core.model.track import BETWEEN_VIEWS, StatedView, View, side_of

# One click gives both knuckles: from the side they lie on one another.
KNUCKLES: Final = tuple(f"{side}_knuckles" for side in SIDES)
MARKABLE: Final = (*BODY, *KNUCKLES, *KIT)
LineKind = Literal["length", "plumb", "level"]

_SIDE_PARTS: Final = ("ear", "shoulder", "elbow", "wrist", "knuckles", "hip", "knee", "ankle")
_ACROSS_PARTS: Final = ("shoulder", "hip")
_FACING_PARTS: Final = ("ear", "shoulder", "elbow", "wrist", "knuckles", "hip", "ankle")


@dataclass(frozen=True)
class Mark:
    """A point on one frame, in pixels of the upright picture."""

    frame: int
    x: float
    y: float


@dataclass(frozen=True)
class Line:
    """A line drawn on the picture, for scale ("length", with its metres), or for the true vertical.

    what : what was measured, in the coach's words ("plate"); metres : 0 for plumb and level lines
    """

    kind: LineKind
    ax: float
    ay: float
    bx: float
    by: float
    metres: float = 0.0
    what: str = ""


@dataclass(frozen=True)
class Marks:
    """All that was marked on one clip: one document, so that undo is the document before.

    view : from where the clip was filmed, as the coach says it
    points : by landmark, its marks by rising frame
    person : (frame, x0, y0, x1, y1) the box of the person meant, where several are in view
    """

    view: StatedView
    points: Mapping[str, tuple[Mark, ...]] = field(default_factory=dict)
    lines: tuple[Line, ...] = ()
    person: tuple[int, float, float, float, float] | None = None

    def __post_init__(self) -> None:
        object.__setattr__(self, "points", MappingProxyType(dict(self.points)))

    @property
    def side(self) -> View:
        """The side of the body that is seen best."""
        return side_of(self.view)

    @property
    def count(self) -> int:
        return sum(len(own) for own in self.points.values())

    def marked(self, name: str, frame: int) -> Mark | None:
        """The mark of a point on a frame."""
        return next((m for m in self.points.get(name, ()) if m.frame == frame), None)

    def with_mark(self, name: str, mark: Mark) -> Marks:
        """The document with one more mark, in place of one of that point on that frame."""
        kept = [m for m in self.points.get(name, ()) if m.frame != mark.frame]
        own = tuple(sorted((*kept, mark), key=lambda m: m.frame))
        return Marks(self.view, {**self.points, name: own}, self.lines, self.person)

    def without_mark(self, name: str, frame: int) -> Marks:
        own = tuple(m for m in self.points.get(name, ()) if m.frame != frame)
        points = {n: own if n == name else m for n, m in self.points.items()}
        return Marks(self.view, {n: m for n, m in points.items() if m}, self.lines, self.person)

    def with_line(self, line: Line) -> Marks:
        """The document with a line, in place of one of its kind."""
        others = tuple(old for old in self.lines if old.kind != line.kind)
        return Marks(self.view, self.points, (*others, line), self.person)

    def without_line(self, kind: LineKind) -> Marks:
        return Marks(
            self.view,
            self.points,
            tuple(old for old in self.lines if old.kind != kind),
            self.person,
        )

    def mirrored(self, width: float) -> Marks:
        """The same marks on the picture turned left to right. Names and view stay: they are the
        coach's."""

        def over(x: float) -> float:
            return width - 1.0 - x

        points = {
            name: tuple(Mark(m.frame, over(m.x), m.y) for m in own)
            for name, own in self.points.items()
        }
        lines = tuple(replace(n, ax=over(n.ax), bx=over(n.bx)) for n in self.lines)
        box = self.person
        person = (box[0], over(box[3]), box[2], over(box[1]), box[4]) if box else None
        return Marks(self.view, points, lines, person)

    def line(self, kind: LineKind) -> Line | None:
        return next((line for line in self.lines if line.kind == kind), None)


def asked_points(view: StatedView) -> tuple[str, ...]:
    """The joints that a review needs marked, from the head down, in the order of clicking.

    From between two sides the other shoulder and hip are asked for too: they show the camera's yaw.
    """
    if view in SIDES:
        return tuple(f"{view}_{part}" for part in _SIDE_PARTS)
    if view in BETWEEN_VIEWS:
        near: Side = "left" if side_of(view) == "left" else "right"
        return tuple(
            f"{side}_{part}"
            for part in _SIDE_PARTS
            for side in ((near, other(near)) if part in _ACROSS_PARTS else (near,))
        )
    first: Side = "right" if view == "front" else "left"  # from left to right in the picture
    second: Side = "left" if view == "front" else "right"
    return tuple(f"{side}_{part}" for part in _FACING_PARTS for side in (first, second))
