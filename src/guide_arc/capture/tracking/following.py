"""Following marked points through a clip.

Shoulders, hips and kit are followed by what is about them (`patches.py`); every limb that hangs on
them is turned about the joint above it and searched for at every angle in every frame
(`one_limb.py`), from the trunk outward. A long clip is gone through in blocks, from the one with
the first mark on, so that memory stays flat.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.behind import Behind
from guide_arc.capture.tracking.leaps import about_leaps
from guide_arc.capture.tracking.limbs import Limb, Spot, is_trunk
from guide_arc.capture.tracking.one_limb import (
    FrameBlock,
    KnownLimb,
    LaidLimb,
    direction_deg,
    lay,
    lay_again,
)
from guide_arc.capture.tracking.patches import Patch, course
from guide_arc.capture.tracking.second_look import (
    by_the_next,
    found_there,
    may_be_about,
    may_be_there,
    missed,
    of_cloth,
    on_what_stays,
)
from guide_arc.capture.tracking.strips import ANGLES_DEG, Picture, apart_deg
from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.tracking.turning import Held
from guide_arc.capture.tracking.worked import ARM_PX, Worked, marked_length
from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import FrameReader, every_frame
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import on_other_side
from guide_arc.core.model.marks import Marks

# Below this confidence the user is asked about a point.
DOUBT_BELOW: Final = 0.5
# Evidence against a point is multiplied, as if independent; what is left of its
# confidence is worth this much (`bench/following.py`: how many are right). What says nearly nothing
# stays lost.
_SAID: Final = (0.0, 0.3, 0.4, 0.5, 1.0)
_WORTH: Final = (0.0, 0.3, 0.75, 0.9, 1.0)

# Frames that are held in memory at a time: 16 s at 30 Hz.
_BLOCK: Final = 480
# For a clip of one frame, which has no time step.
_USUAL_STEP_S: Final = 0.04
# Two joints marked on one spot still have a limb with a direction.
_LEAST_LONG_PX: Final = 4.0
# Half of a patch, as a share of an upper arm.
_RADIUS_SHARE: Final = 0.36
# A limb that lay over a point as it was marked covers this much more than its strip.
_COVERS: Final = 1.3
# How far about its joints a trunk reaches, in upper arms.
_TRUNK_ARMS: Final = 0.9
# A shoulder keeps its place between hip and ear, within the range of a shoulder: worked pixels.
_SHOULDER_GOES_PX: Final = 10.0
_SHOULDER_GOES_ALONE_PX: Final = 25.0
# A hip keeps its place among the trunk's corners, within the range of a hip: worked pixels.
_HIP_GOES_PX: Final = 6.0
# Hip and ear keep their place in a trunk and head that turn about the shoulder: worked pixels.
_TRUNK_GOES_PX: Final = 3.0
# A trunk that changes its length by more than this has a hip that slid: worked pixels.
_TRUNK_GROWS_PX: Final = 5.0
# A share of the frames in which the more exact of two ways to track a point is plausible.
_AGREE: Final = 0.98
_HIPS: Final = ("left_hip", "right_hip")
_TRUNK: Final = ("left_shoulder", "right_shoulder", *_HIPS)
# A hand turns about its wrist by this much, about as it was marked: standard deviation, degrees.
_HAND_DEG: Final = 18.0
_HAND_UNSEEN: Final = 0.55
# A limb that fits this well says that the joint above it is right, too.
_STRONG_FIT: Final = (0.72, 0.86)
# How well a root counts as fitting, and how much of a joint's place the limb below it says at most.
_ROOT_FIT: Final = 0.93
_BEST_FIT: Final = 1.03
_MOST_FROM_BELOW: Final = 0.85
_SAYS_WHERE_ABOVE: Final = 0.5
# With fewer frames than these a second search of the whole block is skipped.
_WORTH_LOOKING: Final = 3
# A second look that leaves more than this of what it searched for is no better than the first.
_MOSTLY: Final = 0.5


class MarkedPoints:
    """The tracker that follows what the coach marked."""

    name = "marked points"

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        if not marks.points:
            return "nothing is marked yet; click the joints on one frame"
        if max(m.frame for own in marks.points.values() for m in own) >= clip.frames:
            return "the marks belong to another clip; mark the joints on this one"
        return None

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """Through the whole clip; see the module. Raises BadFile if the clip is damaged."""
        following = _Following(clip, marks, progress)
        names = following.worked.names
        position = np.full((clip.frames, len(names), 2), np.nan)
        confidence = np.zeros((clip.frames, len(names)))
        for low, high, backward in _blocks(clip.frames, following.worked.first):
            position[low:high], confidence[low:high] = following.block(low, high, backward)
        confidence = np.interp(confidence, _SAID, _WORTH)
        doubted = confidence < DOUBT_BELOW
        position = following.worked.in_clip(position)
        for i, name in enumerate(names):
            for m in marks.points[name]:
                position[m.frame, i], confidence[m.frame, i] = (m.x, m.y), 1.0
                doubted[m.frame, i] = False
        return Tracked(names, position, np.round(confidence, 2), doubted)


def _blocks(frames: int, first: int) -> list[tuple[int, int, bool]]:
    """(from, to, backward): the block with the first mark, those after it, and those before it,
    outward."""
    start = first - first % _BLOCK
    later = [(low, min(low + _BLOCK, frames), False) for low in range(start, frames, _BLOCK)]
    return later + [(low, low + _BLOCK, True) for low in range(start - _BLOCK, -1, -_BLOCK)]


class _Following:
    """One clip, block by block."""

    def __init__(self, clip: Clip, marks: Marks, progress: Progress) -> None:
        self.clip, self.worked, self.progress = clip, Worked(clip, marks), progress
        self.step_s = float(np.median(np.diff(clip.time_s))) if clip.frames > 1 else _USUAL_STEP_S
        self.known = [
            KnownLimb.of(limb, max(marked_length(limb, self.worked.keys), _LEAST_LONG_PX))
            for limb in self.worked.limbs
        ]
        by_patch = (*self.worked.roots, *(k.limb.b for k in self.known if is_trunk(k.limb)))
        self.patches = {name: self._patch_of(name) for name in by_patch}
        self._edge: dict[str, dict[bool, Array]] = {name: {} for name in by_patch}
        self._frames_done = 0.0
        self._look_at_marks()

    def _look_at_marks(self) -> None:
        """Keep how every marked point and limb looks on the frames where the coach marked it."""
        keys = self.worked.keys
        with FrameReader(self.clip) as reader:
            for frame in sorted({f for own in keys.values() for f in own}):
                picture = self.worked.picture(reader.at(frame, self.worked.width, raw=True))
                taken = self._taken_by_the_body(frame, picture.shape[:2])
                for name, patch in self.patches.items():
                    if frame in keys[name]:
                        patch.mark(picture, keys[name][frame])
                for known in self.known:
                    a, b = keys[known.limb.a].get(frame), keys[known.limb.b].get(frame)
                    if a is not None and b is not None:
                        known.mark(picture, a, b, taken)

    def _taken_by_the_body(self, frame: int, shape: tuple[int, int]) -> NDArray[np.bool_]:
        """(H, W) the part of a marked frame that the marked body covers."""
        at = {name: own[frame] for name, own in self.worked.keys.items() if frame in own}
        out = np.zeros(shape, dtype=np.uint8)
        trunk = [at[n] for n in at if n.endswith(("shoulder", "hip"))]
        if len(trunk) > 1:
            cv2.fillConvexPoly(out, cv2.convexHull(np.array(trunk, dtype=np.int32)), 1)
            cv2.polylines(
                out, [np.array(trunk, dtype=np.int32)], True, 1, round(_TRUNK_ARMS * ARM_PX)
            )
        for known in self.known:
            a, b = at.get(known.limb.a), at.get(known.limb.b)
            if a is not None and b is not None and not is_trunk(known.limb):
                wide = 2 * round(_COVERS * known.limb.wide * known.strip.long) + 1
                (ax, ay), (bx, by) = (
                    np.round(a).astype(int).tolist(),
                    np.round(b).astype(int).tolist(),
                )
                cv2.line(out, (ax, ay), (bx, by), 1, wide)
        return out.astype(bool)

    def _patch_of(self, name: str) -> Patch:
        """The patch of a root: without the side on which its limb swings, and without what lay over
        it."""
        keys, at = self.worked.keys, self.worked.first_mark(name)
        part = name.partition("_")[2]
        other = on_other_side(name)
        hanging = [k for k in self.known if not is_trunk(k.limb)]
        swings = next((k.limb for k in hanging if k.limb.a == name), None)
        away: Spot | None = None
        if swings is not None:
            # Facing the camera an arm swings on all of its side.
            facing = part == "shoulder" and other in keys
            away = (
                at - self.worked.first_mark(other)
                if facing
                else self.worked.first_mark(swings.b) - at
            )
        first = min(keys[name])
        over = [
            (
                keys[k.limb.a][first] - at,
                keys[k.limb.b][first] - at,
                _COVERS * k.limb.wide * k.strip.long,
            )
            for k in hanging
            if name not in (k.limb.a, k.limb.b)
            and first in keys[k.limb.a]
            and first in keys[k.limb.b]
        ]
        return Patch(round(_RADIUS_SHARE * ARM_PX), away, tuple(over))

    def block(self, low: int, high: int, backward: bool) -> tuple[Array, Array]:
        """(N, L, 2) and (N, L): where the points are in these frames, and how sure that is."""
        names, order = self.worked.names, -1 if backward else 1
        pictures = self._pictures(low, high)
        if not pictures:
            return np.full((high - low, len(names), 2), np.nan), np.zeros((high - low, len(names)))
        first = low <= self.worked.first < high
        behind = Behind(pictures)
        moved = [behind.moved(picture) for picture in pictures]
        block = FrameBlock(pictures[::order], moved[::order], backward, first, self.step_s)
        marked = {
            name: {
                (high - 1 - f if backward else f - low): at
                for f, at in own.items()
                if low <= f < high
            }
            for name, own in self.worked.keys.items()
        }
        found = _Found(marked)
        before = {n: (self._edge[n].get(backward), self.patches[n].learned()) for n in self.patches}
        for name in sorted(self.patches, key=lambda n: n.endswith("shoulder")):
            self._follow_root(name, block, found, before[name][0])
        for name in _HIPS:
            likely = self._as_the_trunk_goes(name, found)
            if likely is not None:
                self.patches[name].go_back_to(before[name][1])
                self._follow_root(name, block, found, before[name][0], likely)
        by_patch = {n: (found.spots[n].copy(), found.sure[n].copy()) for n in self.patches}
        for known in self.known:
            begin = found.begun[known.limb.b] = known.edge.get(block.backward)
            above = found.spots[known.limb.a].copy(), found.sure[known.limb.a].copy()
            laid = self._follow_limb(known, block, found, begin)
            self._look_again_above(known, laid, block, found, begin)
            self._look_where_it_moved(known, block, found, begin)
            if is_trunk(known.limb):
                name = known.limb.b
                self._end_by_patch(
                    name,
                    block,
                    found,
                    by_patch[name],
                    above=known.limb.a,
                    before=above,
                    begin=before[name][0],
                )
            self._tell(0.75 * (high - low) / len(self.known))
        for known in self.known:
            self._doubt_leaps(known, found)
        spots = np.stack([found.spots[n] for n in names], axis=1)
        return spots[::order], np.stack([found.sure[n] for n in names], axis=1)[::order]

    def _end_by_patch(
        self,
        name: str,
        block: FrameBlock,
        found: _Found,
        by_patch: tuple[Array, Array],
        *,
        above: str,
        before: tuple[Array, Array],
        begin: Array | None,
    ) -> None:
        """Decide between hip or ear as trunk or head give it, and as tracked by what is around it:
        the second is exact, and slides at times along plain cloth or with an arm that moves over
        it, which changes the length of the trunk. Without such a change it is taken; otherwise it
        is searched again near the first.

        by_patch : its places and how sure they are, by what is around it; above, before : the
            shoulder, and the same of it before trunk or head were tracked
        """
        spots, sure = found.spots[name], found.sure[name]
        agree = np.hypot(*(by_patch[0] - spots).T) <= _HIP_GOES_PX
        marked = np.hypot(*(self.worked.first_mark(name) - self.worked.first_mark(above)))
        as_long = np.abs(np.hypot(*(by_patch[0] - before[0]).T) - marked) <= _TRUNK_GROWS_PX
        if np.mean(agree | as_long) >= _AGREE:
            found.put(name, *by_patch)
            found.put(above, *before)
            del found.fits[name]
            return
        self._follow_root(name, block, found, begin, (spots, _TRUNK_GOES_PX))
        near = np.hypot(*(found.spots[name] - spots).T) <= _TRUNK_GOES_PX
        exact = near & (found.sure[name] >= DOUBT_BELOW)
        found.put(
            name,
            np.where(exact[:, None], found.spots[name], spots),
            np.where(exact, np.maximum(sure, found.sure[name]), sure),
        )

    def _pictures(self, low: int, high: int) -> list[Picture]:
        """The frames of a block; a frame that is lost in the file looks as the one before."""
        out: list[Picture] = []
        frames = every_frame(self.clip, width=self.worked.width, raw=True, start=low, stop=high)
        for number, whole in frames:
            picture = self.worked.picture(whole)
            out += [picture] * (number - low + 1 - len(out))
            self._tell(0.25)
        return out + out[-1:] * (high - low - len(out)) if out else out

    def _tell(self, frames: float) -> None:
        self._frames_done += frames
        self.progress(min(self._frames_done / self.clip.frames, 1.0))

    def _follow_root(
        self,
        name: str,
        block: FrameBlock,
        found: _Found,
        begin: Array | None,
        likely: tuple[Array, float] | None = None,
    ) -> None:
        if name.endswith("shoulder"):
            likely = self._between_others(name, found)
        edge, about = self._edge[name], self.worked.first_mark(name)
        gone = course(
            self.patches[name],
            block.pictures,
            about,
            found.marked[name],
            block.step_s,
            begin=begin,
            likely=likely,
        )
        edge[block.backward] = gone.ahead
        if block.first:
            edge[not block.backward] = gone.begin
        found.put(name, gone.at, gone.sure)

    def _between_others(self, name: str, found: _Found) -> tuple[Array, float] | None:
        """Where a shoulder is if the trunk only moves, turns and tilts: from the hip and the ear of
        its side."""
        side = name.partition("_")[0]
        hip, ear = f"{side}_hip", f"{side}_ear"
        if hip not in found.spots:
            return None
        low = self.worked.first_mark(hip)
        own = self.worked.first_mark(name) - low
        if ear not in found.spots:
            return found.spots[hip] + own, _SHOULDER_GOES_ALONE_PX
        # As complex numbers a turn with a change of size is one factor.
        was = complex(*(self.worked.first_mark(ear) - low))
        now = (found.spots[ear] - found.spots[hip]) @ np.array([1.0, 1.0j])
        at = now / (was or 1.0) * complex(*own)
        return found.spots[hip] + np.stack((at.real, at.imag), axis=-1), _SHOULDER_GOES_PX

    def _as_the_trunk_goes(self, name: str, found: _Found) -> tuple[Array, float] | None:
        """Where a hip is if the trunk only moves, turns and changes its size: from the three other
        corners of it, and how far from there it may be; None if it is found there, or not all of
        them are marked. On plain cloth a tracked hip would slide up or down."""
        others = [n for n in _TRUNK if n != name]
        if name not in found.spots or not all(n in found.spots for n in others):
            return None
        was = np.array([complex(*self.worked.first_mark(n)) for n in others])
        own = complex(*self.worked.first_mark(name))
        now = np.stack([found.spots[n] @ np.array([1.0, 1.0j]) for n in others], axis=-1)
        middle, centre = now.mean(axis=-1), was.mean()
        spread = float((np.abs(was - centre) ** 2).sum())
        if spread <= 0.0:
            return None
        # As complex numbers a turn with a change of size is one factor, found by least squares.
        factor = ((now - middle[:, None]) * np.conj(was - centre)).sum(axis=-1) / spread
        there = middle + factor * (own - centre)
        at = np.stack((there.real, there.imag), axis=-1)
        apart = np.hypot(*(at - found.spots[name]).T)
        return (at, _HIP_GOES_PX) if apart.max() > _HIP_GOES_PX else None

    def _look_again_above(
        self,
        known: KnownLimb,
        laid: LaidLimb,
        block: FrameBlock,
        found: _Found,
        begin: Array | None,
    ) -> None:
        """If a limb that is usually well seen is gone for a while, the limb above was found at a
        wrong angle."""
        above = next((k for k in self.known if k.limb.b == known.limb.a), None)
        gone = missed(laid) if above is not None and not known.limb.short else None
        if above is None or gone is None:
            return
        pivot = found.laid[above.limb.b].pivot
        was = found.laid[above.limb.b]
        if not may_be_about(above, pivot, known, laid, gone, block):
            return
        told = by_the_next(above, pivot, known, laid, gone, block)
        fits = of_cloth(was.fits, gone)
        held = self._held(above, pivot, found)
        edges = dict(above.edge), dict(known.edge)
        again = lay_again(
            above,
            block,
            pivot,
            held=held,
            prior=told,
            fits=fits,
            begin=found.begun[above.limb.b],
            before=was,
        )
        if not may_be_there(known, again.b, laid, gone, block):
            above.edge = edges[0]
            return
        before = found.copy()
        found.spots[above.limb.a] = pivot.copy()
        self._put(above, again, pivot, found, None)
        seen = self._follow_limb(known, block, found, begin, before=laid)
        if not found_there(laid, seen, gone):
            found.restore(before)  # it is hidden, and the limb above was right
            above.edge, known.edge = edges

    def _look_where_it_moved(
        self, known: KnownLimb, block: FrameBlock, found: _Found, begin: Array | None
    ) -> None:
        """If a limb was found on background that is there even while the limb is elsewhere, search
        for it where something moves; where that finds nothing better, it is lost."""
        end = known.limb.b
        above = next((k.limb for k in self.known if k.limb.b == known.limb.a), None)
        if known.limb.short or above is None:
            # A hand moves with its forearm, and a sleeve moves over its own cloth without a trace.
            return
        laid = found.laid[end]
        astray = on_what_stays(known, laid, found.spots[above.a], block)
        astray[list(found.marked[end])] = False
        if not astray.any():
            return
        still = astray
        if astray.sum() >= _WORTH_LOOKING:
            before, edges = found.copy(), dict(known.edge)
            found.spots[known.limb.a] = laid.pivot.copy()
            seen = self._follow_limb(known, block, found, begin, astray, laid)
            still = astray & on_what_stays(known, seen, found.spots[above.a], block)
            if still.sum() > _MOSTLY * astray.sum():
                found.restore(before)
                known.edge, still = edges, astray
        found.astray[end] = still
        found.sure[end] = np.where(still, 0.0, found.sure[end])

    def _doubt_leaps(self, known: KnownLimb, found: _Found) -> None:
        """Where a joint leaps and the limb that hangs on it is not seen, nothing says on which side
        of the leap it was right."""
        a, b = known.limb.a, known.limb.b
        below = next((k.limb.b for k in self.known if k.limb.a == b and not k.limb.short), None)
        if below is None:
            return
        leaps = about_leaps(found.spots[b] - found.spots[a], known.strip.long, self.step_s)
        leaps &= found.sure[below] < DOUBT_BELOW
        leaps[list(found.marked[b])] = False
        found.sure[b] = np.where(leaps, 0.0, found.sure[b])

    def _held(self, known: KnownLimb, pivot: Array, found: _Found) -> Held:
        """By frame, the angle and length that the coach marked."""
        a = known.limb.a
        return {
            f: known.polar(at - found.marked[a].get(f, pivot[f]))
            for f, at in self._end_marked(known, pivot, found).items()
        }

    def _end_marked(self, known: KnownLimb, pivot: Array, found: _Found) -> dict[int, Spot]:
        """By frame, where a limb's end was marked; or in its place if the hand was marked, which
        then moves with its forearm."""
        b = known.limb.b
        out = dict(found.marked[b])
        hand = next((k for k in self.known if k.limb.a == b and k.limb.short), None)
        if hand is not None and not known.limb.short:
            share = known.strip.long / (known.strip.long + hand.strip.long)
            for f, at in found.marked[hand.limb.b].items():
                out.setdefault(f, pivot[f] + share * (at - pivot[f]))
        return out

    def _follow_limb(
        self,
        known: KnownLimb,
        block: FrameBlock,
        found: _Found,
        begin: Array | None,
        not_what_stays: NDArray[np.bool_] | None = None,
        before: LaidLimb | None = None,
    ) -> LaidLimb:
        """before : its placement by the first search"""
        a = known.limb.a
        pivot = found.spots[a]
        straight = self._straight_on(known.limb, found)
        prior = (
            None
            if straight is None
            else -0.5 * (apart_deg(ANGLES_DEG, straight[:, None]) / _HAND_DEG) ** 2
        )
        held = self._held(known, pivot, found)
        self._learn_from_corrections(known, block, pivot, found)
        laid = lay(
            known,
            block,
            pivot,
            held=held,
            prior=prior,
            begin=begin,
            not_what_stays=not_what_stays,
            before=before,
        )
        self._put(known, laid, pivot, found, straight)
        return laid

    def _learn_from_corrections(
        self, known: KnownLimb, block: FrameBlock, pivot: Array, found: _Found
    ) -> None:
        """How a limb looks where the coach marked its end alone, about the joint above as it was
        found."""
        a, b = known.limb.a, known.limb.b
        for f, at in self._end_marked(known, pivot, found).items():
            new = f not in found.marked[a] and (b, f) not in found.learned
            if new and found.sure[a][f] > DOUBT_BELOW:
                found.learned.add((b, f))
                known.mark(block.pictures[f], pivot[f], at)

    def _put(
        self, known: KnownLimb, laid: LaidLimb, pivot: Array, found: _Found, straight: Array | None
    ) -> None:
        """Store a limb's placement, and its evidence about the joint above."""
        a, b = known.limb.a, known.limb.b
        found.laid[b] = laid
        low, high = _STRONG_FIT
        strong = np.clip((laid.like - low) / (high - low), 0.0, 1.0) * laid.certain
        if a in found.astray:
            strong = np.where(found.astray[a], 0.0, strong)  # the hand is as astray
        sure_above = np.maximum(found.sure[a], strong)
        sure = sure_above * laid.certain * laid.quality
        found.put(a, _joint_between(pivot, found.fits.get(a), laid, sure), sure_above)
        end = laid.b
        if straight is not None:
            # A hand that looks unlike itself, behind a weight or a rope, is where the forearm holds
            # it.
            unseen = sure < _HAND_UNSEEN * sure_above
            turn = np.radians(straight)
            ahead = found.spots[a] + known.strip.long * np.stack(
                (np.cos(turn), np.sin(turn)), axis=-1
            )
            end = np.where(unseen[:, None], ahead, end)
            sure = np.where(unseen, _HAND_UNSEEN * sure_above, sure)
        found.put(b, end, sure)
        found.fits[b] = laid.fit

    def _straight_on(self, limb: Limb, found: _Found) -> Array | None:
        """(F,) where a hand points if it goes on as the forearm does, turned as it was marked,
        degrees; None for what is no hand."""
        above = next((k.limb for k in self.known if k.limb.b == limb.a), None)
        if not limb.short or above is None:
            return None
        elbow, wrist, hand = (self.worked.first_mark(n) for n in (above.a, above.b, limb.b))
        usual = direction_deg(hand - wrist) - direction_deg(wrist - elbow)
        along = found.spots[above.b] - found.spots[above.a]
        out: Array = np.degrees(np.arctan2(along[:, 1], along[:, 0])) + usual
        return out


class _Found:
    """What is found of a block's points so far, in its order. marked : by name and frame, what the
    coach marked"""

    def __init__(self, marked: Mapping[str, Mapping[int, Spot]]) -> None:
        self.marked = marked
        self.spots: dict[str, Array] = {}
        self.sure: dict[str, Array] = {}
        self.fits: dict[str, Array] = {}
        self.laid: dict[str, LaidLimb] = {}
        self.begun: dict[str, Array | None] = {}
        self.astray: dict[str, NDArray[np.bool_]] = {}
        self.learned: set[tuple[str, int]] = set()

    def copy(self) -> _Found:
        """What is found so far, to go back to."""
        out = _Found(self.marked)
        for mine, own in zip(self._every(), out._every(), strict=True):
            own.update(mine)
        out.spots = {name: spots.copy() for name, spots in self.spots.items()}
        out.sure = {name: sure.copy() for name, sure in self.sure.items()}
        return out

    def restore(self, before: _Found) -> None:
        for mine, own in zip(self._every(), before._every(), strict=True):
            mine.clear()
            mine.update(own)

    def _every(self) -> tuple[dict[str, Any], ...]:
        return self.spots, self.sure, self.fits, self.laid, self.begun, self.astray

    def put(self, name: str, spots: Array, sure: Array) -> None:
        """Where a point is; the coach's marks go before."""
        for f, at in self.marked[name].items():
            spots[f], sure[f] = at, 1.0
        self.spots[name], self.sure[name] = spots, sure


def _joint_between(pivot: Array, fit_above: Array | None, laid: LaidLimb, sure: Array) -> Array:
    """(F, 2) a joint as the limb above and the limb below say it, each the more the better it
    fits."""
    above = _BEST_FIT - (np.full(len(pivot), _ROOT_FIT) if fit_above is None else fit_above)
    share = np.clip(above / (above + _BEST_FIT - laid.fit), 0.0, _MOST_FROM_BELOW)
    share = np.where(sure > _SAYS_WHERE_ABOVE, share, 0.0)
    out: Array = pivot + share[:, None] * (laid.a - pivot)
    return out
