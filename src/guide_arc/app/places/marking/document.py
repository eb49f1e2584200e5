"""What the marking of a clip shows, as one frozen value: the clip, its marks, where one is.

Without Qt, and without the program: each rule of the place is a function of this value.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final, Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.people import Person
from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.landmarks import BODY, KIT, SIDES
from guide_arc.core.model.marks import KNUCKLES, Line, Mark, Marks, asked_points
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack, StatedView
from guide_arc.core.review.to_mark import points_to_mark
from guide_arc.library.records import SetRecord

DrawingTool = Literal["length", "plumb", "level", "person"]
Tool = Literal["points"] | DrawingTool

DOUBTED: Final = 0.3
_BY_MARKS: Final = "marked points"
_FEWEST_FRAMES: Final = 3
_NEAR_PX: Final = 14.0
# A shorter line is a slip of the hand.
_SHORTEST_LINE_PX: Final = 20.0
_NO_MARKS: Final = Marks("left")


@dataclass(frozen=True)
class PointDoubt:
    """Where a point is to be looked at again: from a frame to before another; `worst`: the frame to
    look at."""

    point: str
    start: int
    stop: int
    worst: int


class MarkChange(NamedTuple):
    """Other marks, and where one is after them. words : of the step of undo"""

    words: str
    doc: MarkingDocument


@dataclass(frozen=True, eq=False)
class MarkingDocument:
    """record, clip, standard : the set that is marked; None if there is none
    found : the landmarks found so far; people : who may be meant
    tool : what a click draws; point : the one that the next click marks; frame : where one is"""

    record: SetRecord | None = None
    clip: Clip | None = None
    standard: Standard | None = None
    found: LandmarkTrack | None = None
    marks: Marks = _NO_MARKS
    people: tuple[Person, ...] = ()
    tool: Tool = "points"
    point: str = ""
    frame: int = 0

    # What to mark

    @property
    def joints(self) -> tuple[str, ...]:
        """Those that this exercise needs from this view."""
        if self.standard is None:
            return asked_points(self.marks.view)
        return points_to_mark(self.standard, self.marks.view)

    @property
    def kit(self) -> tuple[str, ...]:
        """The kit of this exercise that no tracker finds and this view shows."""
        plan, view = self.standard, self.marks.view
        if plan is None:
            return ()
        sides: tuple[str, ...] = ("right", "left") if view.startswith("front") else SIDES
        if view in SIDES:
            sides = (view,)
        out: list[str] = []
        if plan.pull == "cable":
            out += [f"{side}_pulley" for side in sides]
        elif plan.pull in ("band", "anchored-bar"):
            out.append("anchor")
        if plan.held == "bar" and view not in SIDES:
            out += [f"bar_{side}" for side in sides]
        return tuple(out)

    @property
    def asked(self) -> tuple[str, ...]:
        """The joints that the review needs, then the kit of this exercise."""
        return self.joints + self.kit

    @property
    def others(self) -> tuple[str, ...]:
        """Every other point that can be marked."""
        asked = set(self.asked)
        return tuple(n for n in (*BODY, *KNUCKLES, *KIT) if n not in asked)

    @property
    def open_points(self) -> list[str]:
        """The asked joints without a mark on this frame, where the frame has marks; else without
        any."""
        here = any(m.frame == self.frame for own in self.marks.points.values() for m in own)
        if here:
            return [n for n in self.joints if self.marks.marked(n, self.frame) is None]
        return [n for n in self.joints if n not in self.marks.points]

    # What was found

    @property
    def where_found(self) -> dict[str, tuple[NDArray[np.float64], float]]:
        """Where each point was found on this frame, and how sure that is."""
        track = self.found
        if track is None or self.frame >= track.frames:
            return {}
        out = {}
        for i, name in enumerate(track.names):
            spot = track.position[self.frame, i]
            if np.isfinite(spot).all():
                out[_as_marked(name)] = (spot, float(track.confidence[self.frame, i]))
        return out

    @cached_property
    def doubts(self) -> tuple[PointDoubt, ...]:
        """Where to look again, in the order of the clip; what was marked since is left out."""
        if self.found is None or self.record is None or not self.record.tracked_by:
            return ()
        wanted = set(self.asked) | set(self.marks.points)
        marks = self.marks.points
        return tuple(
            d
            for d in _doubts(self.found)
            if d.point in wanted
            and not any(d.start <= m.frame < d.stop for m in marks.get(d.point, ()))
        )

    def lost_share(self, point: str) -> float:
        """The share of the clip in which the tracker of marks lost a point."""
        track = self.found
        if track is None or self.record is None or self.record.tracked_by != _BY_MARKS:
            return 0.0
        own = [i for i, name in enumerate(track.names) if _as_marked(name) == point]
        return float((track.confidence[:, own[0]] < DOUBTED).mean()) if own else 0.0

    def near(self, x: float, y: float, per_px: float) -> str | None:
        """The point at a place of the picture. per_px : picture pixels in one of the sheet"""
        spots = {n: s for n, (s, _) in self.where_found.items()}
        for name in self.marks.points:
            mark = self.marks.marked(name, self.frame)
            if mark is not None:
                spots[name] = np.array([mark.x, mark.y])
        far = {n: float(np.hypot(s[0] - x, s[1] - y)) for n, s in spots.items()}
        nearest = min(far, key=lambda n: far[n], default=None)
        return nearest if nearest is not None and far[nearest] <= _NEAR_PX * per_px else None

    def person_at(self, x: float, y: float) -> int | None:
        """The person asked about at a place of the picture: of two in one another the smaller
        one."""
        there = [
            i
            for i, p in enumerate(self.people)
            if p.box[0] <= x <= p.box[2] and p.box[1] <= y <= p.box[3]
        ]
        return min(there, key=lambda i: self.people[i].tall, default=None)

    # Moving about

    def at_frame(self, frame: int) -> MarkingDocument:
        last = self.clip.frames - 1 if self.clip is not None else 0
        return replace(self, frame=min(max(frame, 0), last))

    def choosing(self, point: str) -> MarkingDocument:
        """The point that the next click marks."""
        return replace(self, tool="points", point=point)

    def stepped_point(self, by: int) -> MarkingDocument:
        asked = self.asked
        at = asked.index(self.point) + by if self.point in asked else 0
        return self.choosing(asked[at % len(asked)])

    def using(self, tool: Tool) -> MarkingDocument:
        """Another tool; the same again goes back to the points."""
        return replace(self, tool="points" if tool == self.tool else tool)

    def at_doubt(self, by: int = 1) -> MarkingDocument | None:
        """At the next place to look at again, with its point chosen; None if there is none."""
        if not self.doubts:
            return None
        order = sorted(self.doubts, key=lambda d: (d.worst, d.point))
        after = [d for d in order if (d.worst, d.point) > (self.frame, self.point)]
        before = [d for d in order if (d.worst, d.point) < (self.frame, self.point)]
        to = (after or order)[0] if by > 0 else (before or order)[-1]
        return self.choosing(to.point).at_frame(to.worst)


def opened(
    before: MarkingDocument,
    record: SetRecord,
    clip: Clip,
    standard: Standard,
    *,
    marks: Marks,
    found: LandmarkTrack | None,
    people: tuple[Person, ...],
) -> MarkingDocument:
    """A set's clip to be marked; the same one again keeps its position."""
    same = before.record is not None and before.record.id == record.id
    doc = replace(
        before,
        record=record,
        clip=clip,
        standard=standard,
        marks=marks,
        found=found,
        people=people,
    )
    if same:
        return doc.at_frame(doc.frame)
    marked = [m.frame for own in marks.points.values() for m in own]
    first = people[0].frame if people else min(marked, default=0)
    doc = replace(doc, tool="points").at_frame(first)
    return replace(doc, point=next(iter(doc.open_points), doc.joints[0]))


# Marking: each gives other marks, or says why it can't be


def placed(doc: MarkingDocument, x: float, y: float, point: str | None = None) -> MarkChange:
    """The chosen point marked here, and on to the next one; or `point` moved here."""
    name = point or doc.point
    correcting = any(d.point == name and d.start <= doc.frame < d.stop for d in doc.doubts)
    mark = Mark(doc.frame, round(x, 2), round(y, 2))
    after = replace(doc, marks=doc.marks.with_mark(name, mark))
    if correcting:
        after = after.at_doubt() or after
    elif point is None and name in after.asked and after.open_points:
        asked, left = after.asked, after.open_points
        later = [n for n in left if asked.index(n) > asked.index(name)]
        after = replace(after, point=(later or left)[0])
    return MarkChange(f"Mark {name.replace('_', ' ')}", after)


def taken_away(doc: MarkingDocument) -> MarkChange | str:
    """The chosen point without its mark on this frame."""
    if doc.marks.marked(doc.point, doc.frame) is None:
        return "The chosen point has no mark on this frame."
    marks = doc.marks.without_mark(doc.point, doc.frame)
    return MarkChange("Take a mark away", replace(doc, marks=marks))


def drawn(
    doc: MarkingDocument,
    a: tuple[float, float],
    b: tuple[float, float],
    metres: float = 0.0,
    what: str = "",
) -> MarkChange | MarkingDocument | str:
    """What the tool draws, from a to b: a line, or the box of the person."""
    if float(np.hypot(b[0] - a[0], b[1] - a[1])) < _SHORTEST_LINE_PX:
        return "That is too short to measure by; draw it as long as the picture shows it."
    after = replace(doc, tool="points")
    if doc.tool == "person":
        marks = replace(doc.marks, person=(doc.frame, *a, *b))
        return MarkChange("Person", replace(after, marks=marks))
    if doc.tool == "points":
        return after
    marks = doc.marks.with_line(Line(doc.tool, *a, *b, metres, what))
    return MarkChange(f"{doc.tool.capitalize()} line", replace(after, marks=marks))


def seen_from(doc: MarkingDocument, view: StatedView) -> MarkChange | None:
    """From where the clip was filmed."""
    if view == doc.marks.view:
        return None
    after = replace(doc, marks=replace(doc.marks, view=view))
    if after.point not in after.asked:
        after = replace(after, point=next(iter(after.open_points), after.joints[0]))
    return MarkChange("Seen from", after)


def meant(doc: MarkingDocument, person: int) -> MarkChange | None:
    """One of the people in view, by their place among them."""
    if not 0 <= person < len(doc.people):
        return None
    one = doc.people[person]
    marks = replace(doc.marks, person=(one.frame, *one.box))
    return MarkChange("Say who is meant", replace(doc, people=(), marks=marks))


def _doubts(track: LandmarkTrack) -> list[PointDoubt]:
    """Where the tracker doubts, long enough to be looked at, in the order of the clip."""
    out: dict[tuple[str, int], PointDoubt] = {}
    for i, name in enumerate(track.names):
        point, sure = _as_marked(name), track.confidence[:, i]
        low = np.concatenate(([False], sure < DOUBTED, [False]))
        edges = np.flatnonzero(np.diff(low.astype(int)))
        for start, stop in zip(edges[::2], edges[1::2], strict=True):
            if stop - start >= _FEWEST_FRAMES:
                worst = int(start + np.argmin(sure[start:stop]))
                out[(point, int(start))] = PointDoubt(point, int(start), int(stop), worst)
    return sorted(out.values(), key=lambda d: (d.start, d.point))


def _as_marked(name: str) -> str:
    """The point that a click marks for a landmark: one for both knuckles."""
    side, _, part = name.partition("_")
    return f"{side}_knuckles" if part in ("index", "pinky") else name
