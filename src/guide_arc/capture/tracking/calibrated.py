"""Marked points whose lost samples are filled by a pose model that the marks calibrate.

Marked points are exact and get lost; a pose model never loses a joint but is a few centimetres off.
Where both see a joint, the difference is the model's offset for this person. It depends on how the
limb points, and hardly on the time, so an offset is the kernel-weighted mean (Nadaraya-Watson) of
the differences at similar angles of the limb. Leaving out half a second around each sample gives
the error that the prediction would have inside a gap. A lost sample is filled only if it is then
within 4 cm with a probability of at least 0.9; otherwise it stays lost.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Final, Protocol

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.pose import PoseModel
from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.tracking.worked import Worked
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import on_other_side
from guide_arc.core.model.marks import KNUCKLES, Marks

# Samples that both see which a calibration needs: at fewer its error is not known.
_LEAST_BOTH: Final = 30
# At most so many samples are used: the sums grow with their square.
_MOST_BOTH: Final = 600
# Angles of a limb that count as similar: half of the kernel's width, radians.
_ALIKE_RAD: Final = 0.3
# Weight of all other angles, so that an angle that was never seen gets the mean offset.
_ELSEWHERE: Final = 0.02
# Left out on both sides of a sample to measure the error inside a gap, seconds.
_GAP_S: Final = 0.5
# A sample is right within 4 cm, which is 0.12 of an upper arm of 33 cm.
_RIGHT_ARMS: Final = 0.12
# Lost samples are filled from this probability on.
_SURE_ENOUGH: Final = 0.9
# Scores of the model below this say that it guesses.
_MODEL_SEES: Final = 0.5
# Share of the process's time that marked points take; the rest is the model's.
_MARKED_SHARE: Final = 0.6
# Room around the marks of a person for the model's box, as a share of what they span.
_BOX_ROOM: Final = 0.15
# The joint above, whose direction gives the limb's angle.
_ABOVE: Final = {
    "elbow": "shoulder",
    "wrist": "elbow",
    "knuckles": "wrist",
    "index": "wrist",
    "pinky": "wrist",
    "knee": "hip",
    "ankle": "knee",
    "heel": "ankle",
    "foot": "ankle",
    "shoulder": "hip",
    "hip": "shoulder",
    "ear": "shoulder",
}


class WholeClipModel(Protocol):
    """The interface of the pose model."""

    def why_not(self, clip: Clip, marks: Marks) -> str | None: ...

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked: ...


class CalibratedPoints:
    """The tracker of marked points. If a point got lost and the pose model is installed, the model
    fills what it can."""

    name = MarkedPoints.name

    def __init__(self, model: WholeClipModel | None = None) -> None:
        self.model: WholeClipModel = model or PoseModel()

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        return MarkedPoints().why_not(clip, marks)

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """Raises BadFile if the clip is damaged."""
        marked = MarkedPoints().track(clip, marks, lambda s: progress(_MARKED_SHARE * s))
        if not marked.doubted.any() or self.model.why_not(clip, marks) is not None:
            progress(1.0)
            return marked
        try:
            found = self.model.track(
                clip,
                with_person(marks, clip),
                lambda s: progress(_MARKED_SHARE + (1.0 - _MARKED_SHARE) * s),
            )
        except BadInput:  # nobody found, or its process broke down: the marks alone still count
            return marked
        return filled(marked, found, arm_px(clip, marks), clip.time_s)


def arm_px(clip: Clip, marks: Marks) -> float:
    """The length of an upper arm in the picture, pixels, from the marks."""
    from_marks = Worked(clip, marks)
    long = [
        float(np.hypot(*(from_marks.keys[limb.a][f] - from_marks.keys[limb.b][f])))
        for limb in from_marks.limbs
        if limb.b.endswith(("elbow", "wrist"))
        for f in from_marks.keys[limb.a].keys() & from_marks.keys[limb.b].keys()
    ]
    return max(long, default=0.0) / from_marks.scale


def with_person(marks: Marks, clip: Clip) -> Marks:
    """Marks that name the person for the model: the box around the points of the frame with most
    marks, unless the coach chose one."""
    if marks.person is not None:
        return marks
    by_frame: dict[int, list[tuple[float, float]]] = {}
    for own in marks.points.values():
        for m in own:
            by_frame.setdefault(m.frame, []).append((m.x, m.y))
    frame, spots = max(by_frame.items(), key=lambda item: len(item[1]))
    if len(spots) < 3:
        return marks
    low, high = np.min(spots, axis=0), np.max(spots, axis=0)
    room = _BOX_ROOM * float(np.max(high - low))
    (x0, y0), (x1, y1) = (
        np.maximum(low - room, 0.0),
        np.minimum(high + room, (clip.width, clip.height)),
    )
    return replace(marks, person=(frame, float(x0), float(y0), float(x1), float(y1)))


def filled(marked: Tracked, model: Tracked, arm: float, time_s: Array) -> Tracked:
    """Marked points with lost samples filled from the model, where that is sure enough.

    arm : length of an upper arm, pixels; time_s : (F,)
    """
    if arm <= 0.0:
        return marked
    model = _with_knuckles(_on_the_marked_sides(marked, model))
    position, confidence = marked.position.copy(), marked.confidence.copy()
    doubted = marked.doubted.copy()
    for i, name in enumerate(marked.names):
        if name not in model.names or not doubted[:, i].any():
            continue
        own = model.names.index(name)
        seen = (model.confidence[:, own] >= _MODEL_SEES) & np.isfinite(model.position[:, own, 0])
        both = np.flatnonzero(seen & ~marked.doubted[:, i])
        if len(both) < _LEAST_BOTH:
            continue
        both = both[:: -(-len(both) // _MOST_BOTH)]
        angle = _limb_angle(model, name)
        offset = marked.position[both, i] - model.position[both, own]
        error = _error_px(offset, angle[both], time_s[both])
        sure = float(1.0 - np.exp(-0.5 * (_RIGHT_ARMS * arm / error) ** 2)) if error > 0.0 else 1.0
        if sure < _SURE_ENOUGH:
            continue
        lost = np.flatnonzero(marked.doubted[:, i] & seen)
        position[lost, i] = model.position[lost, own] + _predicted(
            offset, angle[both], angle[lost], np.ones((len(lost), len(both)), dtype=bool)
        )
        confidence[lost, i], doubted[lost, i] = round(sure, 2), False
    return replace(marked, position=position, confidence=confidence, doubted=doubted)


def _error_px(offset: Array, angle: Array, time_s: Array) -> float:
    """Standard deviation per axis of the prediction inside a gap, pixels (Rayleigh: the median
    distance is 1.1774 of it)."""
    apart = np.abs(time_s[:, None] - time_s[None]) > _GAP_S
    if not apart.any(axis=1).all():
        return np.inf
    miss = np.hypot(*(offset - _predicted(offset, angle, angle, apart)).T)
    # The 90th percentile, as the mean of a wide tail would hide a place that is always wrong.
    return float(max(np.median(miss) / 1.1774, np.percentile(miss, 90.0) / 2.1460))


def _predicted(offset: Array, known: Array, at: Array, use: NDArray[np.bool_]) -> Array:
    """(N, 2) the weighted mean of offsets at limb angles `known` (K,), for limb angles `at` (N,).

    use : (N, K) which of them may be used
    """
    apart = np.angle(np.exp(1j * (at[:, None] - known[None])))
    weight = np.where(use, np.exp(-0.5 * (apart / _ALIKE_RAD) ** 2) + _ELSEWHERE, 0.0)
    out: Array = weight @ offset / weight.sum(axis=1, keepdims=True)
    return out


def _limb_angle(model: Tracked, name: str) -> Array:
    """(F,) direction of the limb that ends in a landmark, radians; 0 if the model lacks the joint
    above."""
    side, _, part = name.partition("_")
    above = f"{side}_{_ABOVE.get(part, '')}"
    if above not in model.names:
        return np.zeros(len(model.position))
    way = model.position[:, model.names.index(name)] - model.position[:, model.names.index(above)]
    return np.nan_to_num(np.arctan2(way[:, 1], way[:, 0]))


def _on_the_marked_sides(marked: Tracked, model: Tracked) -> Tracked:
    """The model with left and right as they were marked: exchanged if the marks fit that better."""
    turned = replace(model, names=tuple(on_other_side(n) for n in model.names))
    return min((model, turned), key=lambda m: _apart(marked, m))


def _apart(marked: Tracked, model: Tracked) -> float:
    """Median distance of the joints that both know, where the marks are sure."""
    miss = []
    for i, name in enumerate(marked.names):
        if name in model.names:
            sure = np.flatnonzero(~marked.doubted[:, i])
            own = model.position[sure, model.names.index(name)]
            miss.append(np.hypot(*(marked.position[sure, i] - own).T))
    every = np.concatenate(miss) if miss else np.zeros(0)
    every = every[np.isfinite(every)]
    return float(np.median(every)) if len(every) else np.inf


def _with_knuckles(model: Tracked) -> Tracked:
    """The model with the knuckles that a coach marks: between index and little finger."""
    for name in KNUCKLES:
        side = name.partition("_")[0]
        pair = [f"{side}_index", f"{side}_pinky"]
        if name in model.names or not set(pair) <= set(model.names):
            continue
        at = [model.names.index(n) for n in pair]
        model = Tracked(
            (*model.names, name),
            np.concatenate((model.position, model.position[:, at].mean(axis=1)[:, None]), axis=1),
            np.concatenate(
                (model.confidence, model.confidence[:, at].min(axis=1)[:, None]), axis=1
            ),
            np.concatenate(
                (model.doubted, np.any(model.doubted[:, at], axis=1, keepdims=True)), axis=1
            ),
        )
    return model
