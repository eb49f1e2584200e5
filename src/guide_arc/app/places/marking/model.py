"""Marking one clip: which point is next, what was marked, where the tracker doubts, undo and
autosave."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from typing import Any, Final, Literal, Protocol

import numpy as np
from numpy.typing import NDArray

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Task
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToMarking
from guide_arc.capture.tracking.people import Person
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.model.landmarks import BODY, KIT, SIDES
from guide_arc.core.model.marks import KNUCKLES, Line, LineKind, Mark, Marks, asked_points
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack, StatedView
from guide_arc.core.review.to_mark import points_to_mark
from guide_arc.library.merging import Merged, merged_marks
from guide_arc.library.records import SetRecord

Tool = Literal["points", "length", "plumb", "level", "person"]

DOUBTED: Final = 0.3
_BY_MARKS: Final = "marked points"
_FEWEST_FRAMES: Final = 3
_NEAR_PX: Final = 14.0

# A shorter line is a slip of the hand.
_SHORTEST_LINE_PX: Final = 20.0


@dataclass(frozen=True)
class PointDoubt:
    """Where a point is to be looked at again: from a frame to before another; `worst`: the frame to
    look at."""

    point: str
    start: int
    stop: int
    worst: int


class MarkingDesk(Protocol):
    """What the model asks of the program."""

    def opened(self, set_id: int, marks: Marks, *, mirrored: bool) -> None:
        """These marks are in the library now, of a picture that is shown so."""

    def save(
        self,
        set_id: int,
        marks: Marks,
        joined: Callable[[Marks, Merged[Marks]], None],
        *,
        measures_anew: bool,
    ) -> None:
        """Keep the marks.

        joined : hears what was written and what is kept, where another window marked the clip too
        measures_anew : scale, vertical or side changed, and what was found with them
        """

    def putting_marks(self, set_id: int, marks: Marks, since: Marks | None) -> Task[Any]:
        """Change the marks of a clip that is not open, from `since` to these."""

    def did(self, step: Step) -> None: ...


class MarkingModel:
    """The state of the marking place. meant : one of the people in view was said to be the one"""

    opened: Signal[()] = Signal()
    changed: Signal[()] = Signal()
    moved: Signal[int] = Signal()
    refused: Signal[str] = Signal()
    meant: Signal[()] = Signal()

    def __init__(self, desk: MarkingDesk) -> None:
        self.desk = desk
        self.record: SetRecord | None = None
        self.clip: Clip | None = None
        self.standard: Standard | None = None
        self.found: LandmarkTrack | None = None
        self.marks = Marks("left")
        self.tool: Tool = "points"
        self.point = ""
        self.frame = 0
        self.people: tuple[Person, ...] = ()
        self._doubts: tuple[PointDoubt, ...] | None = None

    # What is open

    def open(
        self,
        record: SetRecord,
        clip: Clip,
        standard: Standard,
        marks: Marks,
        found: LandmarkTrack | None,
        people: tuple[Person, ...] = (),
    ) -> None:
        """Mark a set's clip. `found`: the landmarks found so far, if any; `people`: who may be
        meant."""
        same = self.record is not None and self.record.id == record.id
        self.desk.opened(record.id, marks, mirrored=clip.mirrored)
        self.record, self.clip, self.standard, self.found = record, clip, standard, found
        self.marks, self._doubts, self.people = marks, None, people
        if not same:
            self.tool = "points"
            self.frame = self._first_frame()
            self.point = next(iter(self._open_points()), self.joints()[0])
        self.frame = min(self.frame, clip.frames - 1)
        self.opened.emit()
        self.changed.emit()

    def _first_frame(self) -> int:
        if self.people:
            return self.people[0].frame
        return self._first_marked()

    def _first_marked(self) -> int:
        """Where marking starts: at the first mark, or a moment into the clip, when hands have let
        go of it."""
        every = [m.frame for own in self.marks.points.values() for m in own]
        if every or self.clip is None:
            return min(every, default=0)
        return 0

    def asked(self) -> tuple[str, ...]:
        """The joints that the review needs, then the kit of this exercise."""
        return self.joints() + self.kit()

    def joints(self) -> tuple[str, ...]:
        """Those that this exercise needs from this view."""
        if self.standard is None:
            return asked_points(self.marks.view)
        return points_to_mark(self.standard, self.marks.view)

    def kit(self) -> tuple[str, ...]:
        """The kit of this exercise that no tracker can see, as far as this view shows it."""
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

    def others(self) -> tuple[str, ...]:
        """Every other point that can be marked."""
        asked = set(self.asked())
        return tuple(n for n in (*BODY, *KNUCKLES, *KIT) if n not in asked)

    def _open_points(self) -> list[str]:
        """The asked joints without a mark on this frame, where the frame has marks; else without
        any."""
        here = any(m.frame == self.frame for own in self.marks.points.values() for m in own)
        joints = self.joints()
        if here:
            return [n for n in joints if self.marks.marked(n, self.frame) is None]
        return [n for n in joints if n not in self.marks.points]

    # Moving about

    def go_to(self, frame: int) -> None:
        if self.clip is None:
            return
        frame = min(max(frame, 0), self.clip.frames - 1)
        if frame != self.frame:
            self.frame = frame
            self.moved.emit(frame)

    def step(self, frames: int) -> None:
        self.go_to(self.frame + frames)

    def choose(self, point: str) -> None:
        """The point that the next click marks."""
        self.tool, self.point = "points", point
        self.changed.emit()

    def step_point(self, by: int) -> None:
        asked = self.asked()
        at = asked.index(self.point) + by if self.point in asked else 0
        self.choose(asked[at % len(asked)])

    def use(self, tool: Tool) -> None:
        """Another tool; the same again goes back to the points."""
        self.tool = "points" if tool == self.tool else tool
        self.changed.emit()

    # What was found

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

    @property
    def doubts(self) -> tuple[PointDoubt, ...]:
        """Where to look again, in the order of the clip; what was marked since is left out."""
        if self._doubts is None:
            self._doubts = self._find_doubts()
        return tuple(
            d
            for d in self._doubts
            if not any(d.start <= m.frame < d.stop for m in self.marks.points.get(d.point, ()))
        )

    def _find_doubts(self) -> tuple[PointDoubt, ...]:
        track = self.found
        if track is None or self.record is None or not self.record.tracked_by:
            return ()
        wanted = set(self.asked()) | set(self.marks.points)
        out: dict[tuple[str, int], PointDoubt] = {}
        for i, name in enumerate(track.names):
            point = _as_marked(name)
            sure = track.confidence[:, i]
            if point not in wanted:
                continue
            low = np.concatenate(([False], sure < DOUBTED, [False]))
            edges = np.flatnonzero(np.diff(low.astype(int)))
            for start, stop in zip(edges[::2], edges[1::2], strict=True):
                if stop - start >= _FEWEST_FRAMES:
                    worst = int(start + np.argmin(sure[start:stop]))
                    out[(point, int(start))] = PointDoubt(point, int(start), int(stop), worst)
        return tuple(sorted(out.values(), key=lambda d: (d.start, d.point)))

    def lost_share(self, point: str) -> float:
        """The share of the clip in which the tracker of marks lost a point."""
        track = self.found
        if track is None or self.record is None or self.record.tracked_by != _BY_MARKS:
            return 0.0
        own = [i for i, name in enumerate(track.names) if _as_marked(name) == point]
        return float((track.confidence[:, own[0]] < DOUBTED).mean()) if own else 0.0

    def next_doubt(self, by: int = 1) -> None:
        """Go to the next place to look at again, with its point chosen."""
        doubts = self.doubts
        if not doubts:
            self.refused.emit("There is nothing to look at again.")
            return
        order = sorted(doubts, key=lambda d: (d.worst, d.point))
        after = [d for d in order if (d.worst, d.point) > (self.frame, self.point)]
        before = [d for d in order if (d.worst, d.point) < (self.frame, self.point)]
        to = (after or order)[0] if by > 0 else (before or order)[-1]
        self.tool, self.point = "points", to.point
        self.go_to(to.worst)
        self.changed.emit()

    # Marking

    def near(self, x: float, y: float, per_px: float) -> str | None:
        """The point at a place of the picture. per_px : picture pixels in one of the sheet"""
        spots = {n: s for n, (s, _) in self.where_found().items()}
        for name in self.marks.points:
            mark = self.marks.marked(name, self.frame)
            if mark is not None:
                spots[name] = np.array([mark.x, mark.y])
        far = {n: float(np.hypot(s[0] - x, s[1] - y)) for n, s in spots.items()}
        nearest = min(far, key=lambda n: far[n], default=None)
        return nearest if nearest is not None and far[nearest] <= _NEAR_PX * per_px else None

    def place(self, x: float, y: float, *, point: str | None = None) -> None:
        """Mark the chosen point here, and go on to the next one; or move `point` here."""
        name = point or self.point
        mark = Mark(self.frame, round(x, 2), round(y, 2))
        correcting = any(d.point == name and d.start <= self.frame < d.stop for d in self.doubts)
        self._change(f"Mark {name.replace('_', ' ')}", self.marks.with_mark(name, mark))
        if point is None and not correcting:
            left = self._open_points()
            asked = self.asked()
            if name in asked and left:
                later = [n for n in left if asked.index(n) > asked.index(name)]
                self.point = (later or left)[0]
        elif correcting and self.doubts:
            self.next_doubt()
        self.changed.emit()

    def remove(self) -> None:
        """Take the chosen point's mark on this frame away."""
        if self.marks.marked(self.point, self.frame) is None:
            self.refused.emit("The chosen point has no mark on this frame.")
            return
        self._change("Take a mark away", self.marks.without_mark(self.point, self.frame))

    def draw(
        self, a: tuple[float, float], b: tuple[float, float], metres: float = 0.0, what: str = ""
    ) -> None:
        """What the tool draws, from a to b: a line, or the box of the person."""
        far = float(np.hypot(b[0] - a[0], b[1] - a[1]))
        if far < _SHORTEST_LINE_PX:
            self.refused.emit(
                "That is too short to measure by; draw it as long as the picture shows it."
            )
            return
        if self.tool == "person":
            self._change("Person", replace(self.marks, person=(self.frame, *a, *b)))
        elif self.tool != "points":
            line = Line(self.tool, *a, *b, metres, what)
            self._change(f"{self.tool.capitalize()} line", self.marks.with_line(line))
        self.tool = "points"
        self.changed.emit()

    def clear_line(self, kind: LineKind) -> None:
        self._change(f"Take the {kind} line away", self.marks.without_line(kind))

    def clear_person(self) -> None:
        self._change("Anybody in view", replace(self.marks, person=None))

    def see_from(self, view: StatedView) -> None:
        """From where the clip was filmed."""
        if view != self.marks.view:
            self._change("Seen from", replace(self.marks, view=view))
            if self.point not in self.asked():
                self.point = next(iter(self._open_points()), self.joints()[0])
            self.changed.emit()

    def mean(self, person: int) -> None:
        """Say which of the people in view is meant, by their place among them."""
        if not 0 <= person < len(self.people):
            return
        one = self.people[person]
        self.people = ()
        self._change("Say who is meant", replace(self.marks, person=(one.frame, *one.box)))
        self.meant.emit()

    def person_at(self, x: float, y: float) -> int | None:
        """The person asked about at a place of the picture: of two in one another the smaller
        one."""
        there = [
            i
            for i, p in enumerate(self.people)
            if p.box[0] <= x <= p.box[2] and p.box[1] <= y <= p.box[3]
        ]
        return min(there, key=lambda i: self.people[i].tall, default=None)

    def close(self) -> None:
        """Nothing is marked any more: the set is gone."""
        self.record = self.clip = self.standard = self.found = None
        self.marks, self._doubts, self.people = Marks("left"), None, ()
        self.opened.emit()
        self.changed.emit()

    # Keeping, and taking back

    def _change(self, words: str, marks: Marks) -> None:
        if self.record is None:
            return  # no clip is open: there is nothing to mark
        before, set_id = self.marks, self.record.id
        self._put(marks)
        back = partial(self._swap, set_id, marks, before)
        again = partial(self._swap, set_id, before, marks)
        self.desk.did(Step(words, ToMarking(set_id=set_id), back, again))

    def _swap(self, set_id: int, since: Marks, to: Marks) -> Task[Any] | str | None:
        """What a step changed of a clip's marks, taken back or done again; what came from another
        window stays."""
        if self.record is None or self.record.id != set_id:
            return self.desk.putting_marks(set_id, to, since)
        out = merged_marks(since, to, self.marks)
        self._put(out.value)
        return out.words or None

    def _put(self, marks: Marks) -> None:
        assert self.record is not None
        before, self.marks = self.marks, marks
        anew = (calibration_of(before), before.view) != (calibration_of(marks), marks.view)
        joined = partial(self._joined, self.record.id)
        self.desk.save(self.record.id, marks, joined, measures_anew=anew and self.found is not None)
        self.changed.emit()

    def _joined(self, set_id: int, written: Marks, kept: Merged[Marks]) -> None:
        """Another window marked this clip as well: what both marked is shown from here on."""
        if self.record is None or self.record.id != set_id:
            return
        self.marks = merged_marks(written, self.marks, kept.value).value
        self.changed.emit()
        self.refused.emit(kept.words or "Another window marked this clip too; both are kept.")


def _as_marked(name: str) -> str:
    """The point that a click marks for a landmark: one for both knuckles."""
    side, _, part = name.partition("_")
    return f"{side}_knuckles" if part in ("index", "pinky") else name
