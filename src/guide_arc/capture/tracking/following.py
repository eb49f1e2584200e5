"""Following marked points through a clip.

Shoulders, hips and kit are followed by what is about them (`patches.py`); every limb that hangs on them is
turned about the joint above it and looked for at every angle in every frame (`strips.py`), and all frames
together say where it pointed in each (`turning.py`). What is learned of a limb's look on the way, as it
twists and as cloth wrinkles, is kept where the frames before and after vouch for it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.limbs import Limb, Spot, limbs_between, roots_among
from guide_arc.capture.tracking.patches import Patch, course
from guide_arc.capture.tracking.refine import Patch as Shape
from guide_arc.capture.tracking.refine import patch_at, placed
from guide_arc.capture.tracking.strips import (
    ANGLES_DEG,
    LENGTHS,
    STEP_DEG,
    Gallery,
    Numbers,
    Picture,
    Strip,
    looks,
)
from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.tracking.turning import Filter, Held, chance_within, evidence, likeliest_turns
from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import FrameReader, every_frame
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.marks import Marks

DOUBT_BELOW: Final = 0.5

# The picture is worked on so large that an upper arm is about this long in it, pixels.
_ARM_PX: Final = 44.0
_USUAL_WIDTH: Final = 640
_BLOCK: Final = 480
# Round the marks, as far as an arm can reach, as a share of what the marks span.
_ROOM: Final = 0.45
_TRUNK_SHARE: Final = 0.2
_PATCH_PX: Final = (7, 16)
# Every so many frames a limb is looked for everywhere; between them only about where it is going.
_ALL_EVERY: Final = 8
_FAR_LENGTHS: Final = np.array([2, 4])
_NEAR_DEG: Final = 40.0
_LOST_FIT: Final = 0.5
# A hand turns about its wrist by this much, about as it was marked: standard deviation, degrees.
_HAND_DEG: Final = 30.0
# A look is learned where its place is this sure, and the look itself this unlike all known ones.
_LEARN_SURE: Final = 0.97
_LEARN_FIT: Final = (0.55, 0.92)
_LEARNED: Final = 0.5
_AROUND: Final = np.ones((7, 1), dtype=np.uint8)
# A shoulder keeps its place between hip and ear, as far as shoulders go: worked pixels.
_SHOULDER_GOES_PX: Final = 10.0
_SHOULDER_GOES_ALONE_PX: Final = 25.0
_LEARN_APART: Final = 3
# What looks the same while the limb is elsewhere is the background.
_ELSEWHERE_DEG: Final = 27.0
_ALWAYS: Final = 15
_SEEN_FIT: Final = 0.55
_LIKE_FIT: Final = 0.4
_NEW_BY: Final = 0.2
_OFTEN: Final = 4
_APART_DEG: Final = np.abs((ANGLES_DEG[:, None] - ANGLES_DEG[None] + 180.0) % 360.0 - 180.0)
_BACKGROUND: Final = 0.8
# 15 px in a picture of 1280 by 720, where an upper arm is some 88 px long.
_NEAR_SHARE: Final = 0.17


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
        """Through the whole clip; see the module. Raises BadFile where the clip is damaged."""
        worked = _Worked(clip, marks)
        following = _Following(clip, worked)
        following.progress = progress
        names = worked.names
        position = np.full((clip.frames, len(names), 2), np.nan)
        confidence = np.zeros((clip.frames, len(names)))
        for low, high, backward in _blocks(clip.frames, worked.first):
            spots, sure = following.block(low, high, backward)
            position[low:high], confidence[low:high] = spots, sure
        doubted = confidence < DOUBT_BELOW
        position = worked.in_clip(position)
        for i, name in enumerate(names):
            for m in marks.points[name]:
                position[m.frame, i], confidence[m.frame, i] = (m.x, m.y), 1.0
                doubted[m.frame, i] = False
        return Tracked(names, position, np.round(confidence, 2), doubted)


def _blocks(frames: int, first: int) -> list[tuple[int, int, bool]]:
    """(from, to, backward): the block with the first mark, those after it, and those before it, outward."""
    start = first - first % _BLOCK
    later = [(low, min(low + _BLOCK, frames), False) for low in range(start, frames, _BLOCK)]
    return later + [(low, low + _BLOCK, True) for low in range(start - _BLOCK, -1, -_BLOCK)]


class _Worked:
    """The marks in the part of the picture, and at the size, that is worked on."""

    def __init__(self, clip: Clip, marks: Marks) -> None:
        self.clip = clip
        self.names = tuple(marks.points)
        at = {n: {m.frame: np.array([m.x, m.y]) for m in marks.points[n]} for n in self.names}
        self.first = min(min(own) for own in at.values())
        self.limbs = limbs_between(self.names)
        self.roots = roots_among(self.names, self.limbs)
        long = [_marked_length(limb, at) for limb in self.limbs if limb.b.endswith(("elbow", "wrist"))]
        arm = max(long, default=0.0)
        self.scale = min(1.0, _ARM_PX / arm if arm else _USUAL_WIDTH / clip.width)
        every = np.array([spot for own in at.values() for spot in own.values()])
        room = max(_ROOM * float(np.ptp(every, axis=0).max()), 2.6 * arm, 60.0)
        size = np.array([clip.width, clip.height])
        low, high = np.maximum(every.min(axis=0) - room, 0), np.minimum(every.max(axis=0) + room, size)
        self.origin = np.floor(self.scale * low).astype(int)
        self.size = np.ceil(self.scale * (high - low)).astype(int)
        self.keys = {n: {f: self.scale * spot - self.origin for f, spot in own.items()} for n, own in at.items()}

    def picture(self, whole: Picture) -> Picture:
        """The part of a picture that is worked on."""
        (x, y), (wide, high) = self.origin, self.size
        return np.ascontiguousarray(whole[y : y + high, x : x + wide])

    @property
    def width(self) -> int:
        return round(self.scale * self.clip.width)

    def in_clip(self, position: Array) -> Array:
        out: Array = (position + self.origin) / self.scale
        return out


def _marked_length(limb: Limb, keys: Mapping[str, Mapping[int, Spot]]) -> float:
    both = keys[limb.a].keys() & keys[limb.b].keys()
    if both:
        return max(float(np.hypot(*(keys[limb.a][f] - keys[limb.b][f]))) for f in both)
    a, b = (keys[n][min(keys[n])] for n in (limb.a, limb.b))
    return float(np.hypot(*(a - b)))


@dataclass(frozen=True, eq=False)
class Seen:
    """What one frame shows at some angles and lengths: their places on the grid, and (A, S, D) looks."""

    angles: NDArray[np.int_]
    lengths: NDArray[np.int_]
    looks: Numbers

    def fits(self, gallery: Gallery) -> Array:
        """(all angles, all lengths); nothing fits where nothing was looked at."""
        out = np.zeros((len(ANGLES_DEG), len(LENGTHS)))
        fits = gallery.root_fits(self.looks)
        if gallery.learned:
            # What was learned says which of two limbs it is, what was marked says how it lies: a learned look
            # counts for angles about its own, so that none of its error goes into the angle.
            learned = gallery.learned_fits(self.looks, ANGLES_DEG[self.angles])
            spread = cv2.dilate(learned, _AROUND)
            fits = (1.0 - _LEARNED) * fits + _LEARNED * np.maximum(spread, fits)
        out[np.ix_(self.angles, self.lengths)] = fits
        return out


@dataclass(eq=False)
class _Known:
    """What is known of one limb: how it looks, and where it pointed at the edges of the blocks done."""

    limb: Limb
    gallery: Gallery
    patches: list[Shape] = field(default_factory=list)
    ahead: Array | None = None


class _Following:
    """One clip, block by block."""

    progress: Progress

    def __init__(self, clip: Clip, worked: _Worked) -> None:
        self.clip, self.worked = clip, worked
        self.step_s = float(np.median(np.diff(clip.time_s))) if clip.frames > 1 else 0.04
        self.known = [
            _Known(limb, Gallery(Strip(limb, max(_marked_length(limb, worked.keys), 4.0))))
            for limb in worked.limbs
        ]
        self.patch: dict[str, Patch] = {}
        self.gone: dict[str, tuple[Array, Spot]] = {}
        self.done = 0
        self._look_at_marks()

    def _look_at_marks(self) -> None:
        """Keep how every marked point and limb looks on the frames where the coach marked it."""
        keys = self.worked.keys
        with FrameReader(self.clip) as reader:
            for frame in sorted({f for own in keys.values() for f in own}):
                picture = self.worked.picture(reader.at(frame, self.worked.width, raw=True))
                for name in self.worked.roots:
                    if frame in keys[name]:
                        self._patch_of(name).mark(picture, keys[name][frame])
                for known in self.known:
                    a, b = keys[known.limb.a].get(frame), keys[known.limb.b].get(frame)
                    if a is not None and b is not None:
                        self._look_at(known, picture, a, b)

    def _look_at(self, known: _Known, picture: Picture, a: Spot, b: Spot) -> None:
        turn, length = _polar(b - a, known.gallery.strip.long)
        strip = known.gallery.strip
        look = looks(strip.windows(picture, a, np.array([turn]), np.array([length])))[0, 0]
        known.gallery.remember(look, turn, root=True)
        known.patches.append(patch_at(strip, picture, a, turn, length))

    def _patch_of(self, name: str) -> Patch:
        if name not in self.patch:
            keys = self.worked.keys
            swings = next((k.limb for k in self.known if k.limb.a == name), None)
            away = None
            if swings is not None:
                away = keys[swings.b][min(keys[swings.b])] - keys[name][min(keys[name])]
                side, _, part = name.partition("_")
                other = f"{'right' if side == 'left' else 'left'}_{part}"
                if part == "shoulder" and other in keys:  # facing the camera an arm swings on all its side
                    away = keys[name][min(keys[name])] - keys[other][min(keys[other])]
            radius = round(0.36 * _ARM_PX)
            self.patch[name] = Patch(int(np.clip(radius, *_PATCH_PX)), away)
        return self.patch[name]

    def block(self, low: int, high: int, backward: bool) -> tuple[Array, Array]:
        """(N, L, 2) and (N, L): where the points are in these frames, and how sure that is."""
        pictures: list[Picture] = []
        for number, whole in every_frame(
            self.clip, width=self.worked.width, raw=True, start=low, stop=high
        ):
            while len(pictures) <= number - low:  # a lost frame looks as the one before
                pictures.append(self.worked.picture(whole))
            self._tell(0.25)
        while len(pictures) < high - low:
            pictures.append(pictures[-1])
        spots: dict[str, Array] = {}
        sure: dict[str, Array] = {}
        for name in sorted(self.worked.roots, key=lambda n: n.endswith("shoulder")):
            likely = self._between_others(name, spots) if name.endswith("shoulder") else None
            spots[name], sure[name] = self._root(name, pictures, low, backward, likely)
        for known in self.known:
            self._limb(known, pictures, low, backward, spots, sure)
            self._tell(0.75 * (high - low) / len(self.known))
        names = self.worked.names
        return np.stack([spots[n] for n in names], axis=1), np.stack([sure[n] for n in names], axis=1)

    def _tell(self, frames: float) -> None:
        self.done += frames
        self.progress(min(self.done / self.clip.frames, 1.0))

    def _root(self, name: str, pictures: list[Picture], low: int, backward: bool, likely: tuple[Array, float] | None) -> tuple[Array, Array]:
        keys = self.worked.keys[name]
        frames = len(pictures)
        order = -1 if backward else 1
        held = {(frames - 1 - (f - low) if backward else f - low): at for f, at in keys.items() if low <= f < low + frames}
        # The grid stands about where the point was last known.
        begin, about = self.gone.get(name, (None, keys[min(keys)]))
        found = course(self.patch[name], pictures[::order], about, held, self.step_s, begin, None if likely is None else (likely[0][::order], likely[1]))
        self.gone[name] = found.ahead, about
        return found.at[::order], found.sure[::order]

    def _between_others(self, name: str, spots: dict[str, Array]) -> tuple[Array, float] | None:
        """Where a shoulder is if the trunk only moves, turns and tilts: from the hip and the ear of its side."""
        keys, side = self.worked.keys, name.partition("_")[0]
        hip, ear = f"{side}_hip", f"{side}_ear"
        if hip not in spots:
            return None
        own, low = (keys[n][min(keys[n])] for n in (name, hip))
        if ear not in spots:
            return spots[hip] + (own - low), _SHOULDER_GOES_ALONE_PX
        high = keys[ear][min(keys[ear])]
        # As complex numbers a turn with a change of size is one factor.
        was, now = complex(*(high - low)), (spots[ear] - spots[hip]) @ np.array([1.0, 1.0j])
        at = now / was * complex(*(own - low))
        return spots[hip] + np.stack((at.real, at.imag), axis=-1), _SHOULDER_GOES_PX

    def _limb(self, known: _Known, pictures: list[Picture], low: int, backward: bool, spots: dict[str, Array], sure: dict[str, Array]) -> None:
        limb, strip = known.limb, known.gallery.strip
        pivot = spots[limb.a]
        held = self._held(known, low, len(pictures), pivot)
        prior = self._prior(known, spots) if limb.short else None
        order = -1 if backward else 1
        seen = self._look_along(known, pictures, pivot, held, prior, order)
        fits = np.stack([s.fits(known.gallery) for s in seen])
        _less_for_what_stays(fits, np.array([len(s.angles) == len(ANGLES_DEG) for s in seen]))
        log = evidence(fits, prior)
        held_in_order = {(len(pictures) - 1 - f if backward else f): v for f, v in held.items()}
        paths = likeliest_turns(log[::order], held_in_order, self.step_s, known.ahead)
        known.ahead = paths.ahead
        turn, length = paths.turn_deg[::order], paths.length[::order]
        certain = chance_within(paths, paths.turn_deg, paths.length, _NEAR_SHARE * max(1.0, _ARM_PX / strip.long))[::order]
        ends, starts, fit = np.empty_like(pivot), np.empty_like(pivot), np.empty(len(pivot))
        for f, picture in enumerate(pictures):
            best = placed(strip, self._near(known, turn[f]), picture, pivot[f], turn[f], length[f])
            starts[f], ends[f], fit[f] = best.a, best.b, best.fit
        quality = np.clip((fit - 0.45) / 0.25, 0.0, 1.0)
        own = sure[limb.a] * certain * quality
        # Where the limb lies says where the joint above it is, across the limb for sure.
        keys = self.worked.keys
        mixed = np.where((own > 0.5)[:, None], pivot + 0.5 * (starts - pivot), pivot)
        spots[limb.a] = mixed
        spots[limb.b], sure[limb.b] = ends, own
        for name in (limb.a, limb.b):
            for f, at in keys[name].items():
                if low <= f < low + len(pictures):
                    spots[name][f - low], sure[name][f - low] = at, 1.0
        self.debug = getattr(self, "debug", {})
        self.debug[limb.b] = dict(turn=turn, length=length, certain=certain, fit=fit, quality=quality)

    def _look_along(self, known: _Known, pictures: list[Picture], pivot: Array, held: Held, prior: Array | None, order: int) -> list[Seen]:
        """What is seen in every frame about where the limb is going, from the block's start (or its end) on;
        new looks are learned on the way."""
        filter = Filter(self.step_s, known.ahead)
        strip, gallery = known.gallery.strip, known.gallery
        half = round(_NEAR_DEG / STEP_DEG)
        every, lengths = np.arange(len(ANGLES_DEG)), np.arange(len(LENGTHS))
        out: list[Seen] = []
        since, lost = _LEARN_APART, 0
        for n, f in enumerate(range(len(pictures))[::order]):
            coming = filter.coming()
            if lost or n % _ALL_EVERY == 0 or filter.first:
                angles, long = every, _FAR_LENGTHS
            else:
                a, s = np.unravel_index(int(coming.argmax()), coming.shape)
                angles = (int(a) + np.arange(-half, half + 1)) % len(ANGLES_DEG)
                long = lengths[max(int(s) - 1, 0) : int(s) + 2]
            seen = Seen(angles, long, looks(strip.windows(pictures[f], pivot[f], ANGLES_DEG[angles], LENGTHS[long])))
            out.append(seen)
            fits = seen.fits(gallery)
            if f in held:
                chance = filter.hold(*held[f])
            else:
                chance = filter.see(evidence(fits, None if prior is None else prior[f]))
            a, s = np.unravel_index(int(chance.argmax()), chance.shape)
            fit = float(fits[a, s])
            lost = lost + 1 if fit < _LOST_FIT else 0
            since += 1
            near = chance[np.ix_((a + np.arange(-2, 3)) % len(ANGLES_DEG), lengths)].sum()
            if f not in held and _LEARN_FIT[0] < fit < _LEARN_FIT[1] and near > _LEARN_SURE and since >= _LEARN_APART and not gallery.full:
                self._learn(known, pictures[f], pivot[f], float(ANGLES_DEG[a]))
                since = 0
        return out[::order]

    def _learn(self, known: _Known, picture: Picture, pivot: Spot, turn: float) -> None:
        """Keep a new look. How long the limb is there, the coach's marks say, not what was learned from them."""
        strip, gallery = known.gallery.strip, known.gallery
        length = float(LENGTHS[evidence(gallery.root_fits(looks(strip.windows(picture, pivot, np.array([turn]), LENGTHS))))[0].argmax()])
        best = placed(strip, self._near(known, turn), picture, pivot, turn, length)
        turn = _polar(best.b - best.a, strip.long)[0]
        look = looks(strip.windows(picture, pivot, np.array([turn]), np.array([length])))[0, 0]
        gallery.remember(look, turn)

    def _near(self, known: _Known, turn: float) -> list[Shape]:
        """The marked looks of a limb, those that were marked nearest to an angle first."""
        return sorted(known.patches, key=lambda p: abs((p.turn_deg - turn + 180) % 360 - 180))[:2]

    def _held(self, known: _Known, low: int, frames: int, pivot: Array) -> dict[int, tuple[float, float]]:
        keys = self.worked.keys
        out = {}
        for f, b in keys[known.limb.b].items():
            if low <= f < low + frames:
                a = keys[known.limb.a].get(f, pivot[f - low])
                out[f - low] = _polar(b - a, known.gallery.strip.long)
        return out

    def _prior(self, known: _Known, spots: dict[str, Array]) -> Array | None:
        """(F, A) a hand goes on about as the forearm does, turned as it was marked."""
        above = next((k.limb for k in self.known if k.limb.b == known.limb.a), None)
        if above is None:
            return None
        keys = self.worked.keys
        marked = [keys[n][min(keys[n])] for n in (above.a, above.b, known.limb.b)]
        usual = _polar(marked[2] - marked[1], 1.0)[0] - _polar(marked[1] - marked[0], 1.0)[0]
        along = spots[above.b] - spots[above.a]
        fore = np.degrees(np.arctan2(along[:, 1], along[:, 0]))
        off = (ANGLES_DEG[None] - (fore + usual)[:, None] + 180.0) % 360.0 - 180.0
        return -0.5 * (off / _HAND_DEG) ** 2


def _less_for_what_stays(fits: Array, whole: NDArray[np.bool_]) -> None:
    """Take from the fits (F, A, S), in place, what something that looks like the limb and never moves adds to
    them: the other arm at rest, for one, which is seen while the limb itself is elsewhere. whole : (F,) the
    frames in which every angle was looked at"""
    seen = fits[whole].max(axis=2)
    always = np.percentile(seen, _ALWAYS, axis=0)
    new = np.where(seen > _SEEN_FIT, seen - always, 0.0)
    there = new.argmax(axis=1)
    away = _APART_DEG[there] > _ELSEWHERE_DEG
    away &= (new.max(axis=1) > _NEW_BY)[:, None]
    often = away.sum(axis=0) >= _OFTEN
    meanwhile = np.where(often, np.nanmedian(np.where(away | ~often, seen, np.nan), axis=0), 0.0)
    fits -= np.maximum(meanwhile - _LIKE_FIT, 0.0)[:, None]


def _polar(along: Spot, long: float) -> tuple[float, float]:
    return float(np.degrees(np.arctan2(along[1], along[0]))) % 360.0, float(np.hypot(*along)) / long
