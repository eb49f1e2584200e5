"""Following one limb through a block of frames, about a joint whose place is known.

Forward once, to find its path and learn its templates, as it twists and as cloth wrinkles; then all
frames together decide on its angle in each (`turning.py`), and its strip is placed exactly
(`refine.py`)."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.limbs import Limb, Spot
from guide_arc.capture.tracking.looks import Numbers, StripLooks, look_of
from guide_arc.capture.tracking.own_colour import OwnColour
from guide_arc.capture.tracking.refine import PixelStrip, placed, sheet_at
from guide_arc.capture.tracking.strips import (
    ANGLES_DEG,
    LENGTHS,
    STEP_DEG,
    Gallery,
    Picture,
    Strip,
    apart_deg,
)
from guide_arc.capture.tracking.turning import (
    HIDDEN_FIT,
    Filter,
    Held,
    Paths,
    chance_within,
    evidence,
    likeliest_turns,
    state_of,
)
from guide_arc.capture.tracking.worked import ARM_PX
from guide_arc.core.kinematics.vectors import Array

# Every so many frames a limb is searched for at every angle; between them only near its predicted
# place.
_ALL_EVERY: Final = 8
_FAR_LENGTHS: Final = np.array([2, 4])
# It turns by less than this; and so far off it is searched for at least.
_FASTEST_DEG_S: Final = 950.0
_NEAR_DEG: Final = 24.0
_LOST_FIT: Final = 0.5
# Weight of movement along the whole limb as evidence for a place, relative to a fit of 1.
_MOVED: Final = 0.12
_MOVED_FIT: Final = (0.4, 0.6)
# Weight of the limb's own colours as evidence for a place, relative to a fit of 1; a half
# says nothing.
_COLOUR: Final = 0.35
_HALF_FILLED: Final = 0.5
# Light and shadow change a marked look as the limb turns: what fits the looks that were learned on
# the way so well, and is filled with the limb's colours so far while what is next to it is not,
# counts as fitting the marked look so well.
_KNOWN_LOOKS: Final = (0.55, 0.75)
_FILLED: Final = (0.4, 0.6)
_COUNTS_AS: Final = (0.5, 0.7)
# A template is learned if its place is this sure, its fit this good, and none was learned just
# before.
_LEARN_SURE: Final = 0.97
_LEARN_FIT: Final = (0.55, 0.92)
_LEARN_APART: Final = 3
# Learned looks count as much as marked ones, for all angles about their own.
_LEARNED: Final = 0.5
_AROUND: Final = np.ones((7, 1), dtype=np.uint8)
# A marked look that fits less than this says nothing next to the learned ones, and as much as they
# from here on.
_ROOT_TELLS: Final = (0.35, 0.6)
# What looks like the limb while that is clearly elsewhere, this far off and this often.
_ELSEWHERE_DEG: Final = 27.0
_OFTEN: Final = 4
_SEEN_FIT: Final = 0.55
_LIKE_FIT: Final = 0.4
# Clearly: better by this than the fit of the background, which is that percentile over the frames.
_NEW_BY: Final = 0.2
_WORSE_BY: Final = 0.12
_ALWAYS: Final = 15
# 15 px in a picture of 1280 by 720, where an upper arm is some 88 px long.
_NEAR_SHARE: Final = 0.17
# What differs by less is placed over a picture in the same place.
_SAME_PX: Final = 0.25
_SAME_DEG: Final = 0.5
_SAME_SHARE: Final = 0.02
# A limb that fits worse than this says nothing, and one that fits better is doubted no more.
_QUALITY_FIT: Final = (0.5, 0.7)
# A hand goes where the forearm goes, and holds things that change its look.
_QUALITY_FIT_HAND: Final = (0.3, 0.5)


@dataclass(frozen=True, eq=False)
class LaidLimb:
    """A limb's placement, F frames. a, b : (F, 2) its ends; fit : (F,) how well its marked look
    fits, -1 to 1;
    like : (F,) the same, or how well the looks that were learned and its colours do, where that is
        better;
    certain : (F,) probability that its end is near b, given the joint above;
    short : whether it is a hand; fits : (F, A, S) how well each direction and length fit; pivot,
    paths : the joint above as given, and the evidence of all frames about the angles around it"""

    a: Array
    b: Array
    fit: Array
    like: Array
    certain: Array
    short: bool
    fits: Array
    pivot: Array
    paths: Paths

    def lies(self, f: int, pivot: Spot, paths: Paths) -> bool:
        """Whether it would be placed in a frame as it is."""
        return bool(
            np.hypot(*(self.pivot[f] - pivot)) < _SAME_PX
            and abs(apart_deg(self.paths.turn_deg[f], paths.turn_deg[f])) < _SAME_DEG
            and abs(self.paths.length[f] - paths.length[f]) < _SAME_SHARE
        )

    @property
    def quality(self) -> Array:
        """(F,) 0 to 1: how much the look that was found is the limb's."""
        low, high = _QUALITY_FIT_HAND if self.short else _QUALITY_FIT
        out: Array = np.clip((self.like - low) / (high - low), 0.0, 1.0)
        return out


@dataclass(eq=False)
class KnownLimb:
    """What is known of one limb: its templates, and its angle at the edge of the finished blocks,
    forward and backward."""

    limb: Limb
    gallery: Gallery
    colour: OwnColour
    sheets: list[PixelStrip] = field(default_factory=list)
    edge: dict[bool, Array] = field(default_factory=dict)

    @classmethod
    def of(cls, limb: Limb, long: float) -> KnownLimb:
        return cls(limb, Gallery(Strip(limb, long)), OwnColour())

    @property
    def strip(self) -> Strip:
        return self.gallery.strip

    def mark(
        self, picture: Picture, a: Spot, b: Spot, body: NDArray[np.bool_] | None = None
    ) -> None:
        """Remember how it looks where the coach marked both its ends. body : (H, W) what the marked
        body takes of the picture; None if that is not known, and colours can't be distinguished
        from what is around"""
        turn, length = self.polar(b - a)
        window = self.strip.windows(picture, a, np.array([turn]), np.array([length]))[0, 0]
        self.gallery.roots.append(look_of(window))
        if body is not None and not self.limb.short:
            self.colour.mark(self.strip, picture, window, body, a)
        self.sheets.append(sheet_at(self.strip, picture, a, turn, length))

    def polar(self, along: Spot) -> tuple[float, float]:
        """The angle in the picture, degrees, and the length as a share of the marked one."""
        return direction_deg(along), float(np.hypot(*along)) / self.strip.long

    def nearest(self, turn: float) -> list[PixelStrip]:
        """Its marked looks, those that were marked nearest to an angle."""
        return sorted(self.sheets, key=lambda own: abs(apart_deg(own.turn_deg, turn)))[:2]


@dataclass(frozen=True, eq=False)
class FrameBlock:
    """Some frames of a clip in the order in which they are gone through. backward : whether that is
    from the last to the first; moved : by frame, where something has moved (`behind.py`); first :
    whether it is the first block that is done; step_s : from frame to frame"""

    pictures: list[Picture]
    moved: list[Picture]
    backward: bool
    first: bool
    step_s: float


class _AtAngles:
    """What one frame shows at some angles and lengths of a gallery's limb: their places on the
    grid, the pixels there, and (A, S) the share of them that moved."""

    def __init__(
        self,
        gallery: Gallery,
        angles: NDArray[np.int_],
        lengths: NDArray[np.int_],
        seen: StripLooks,
        moved: Numbers,
        filled: Numbers,
    ) -> None:
        self.angles, self.lengths, self.moved = angles, lengths, moved
        self._gallery, self._seen = gallery, seen
        self._by_colour = _COLOUR * np.clip(filled - _HALF_FILLED, 0.0, 1.0) / (1.0 - _HALF_FILLED)
        self._root = gallery.root_fits(seen)
        self._learned, self._until = np.full_like(self._root, -1.0), 0
        self._fits: Array | None = None

    def fits(self) -> Array:
        """(all angles, all lengths); nothing fits where nothing was looked at."""
        fits, count = self._root, len(self._gallery.learned)
        if self._fits is not None and count == self._until:
            return self._fits
        if count > self._until:
            new = self._gallery.learned_fits(self._seen, ANGLES_DEG[self.angles], self._until)
            self._learned, self._until = np.maximum(self._learned, new), count
        if count:
            # Learned templates distinguish two limbs, the marked one gives the exact angle: a
            # learned look counts for angles about its own, so that none of its error goes into the
            # angle. Where the marked look fits badly, in other light or over other things, it says
            # nothing of the angle.
            low, high = _ROOT_TELLS
            tells = float(np.clip((self._root.max() - low) / (high - low), 0.0, 1.0))
            spread = tells * cv2.dilate(self._learned, _AROUND) + (1.0 - tells) * self._learned
            share = tells * (1.0 - _LEARNED)
            fits = share * fits + (1.0 - share) * np.maximum(spread, fits)
        self._fits = self._on_grid(np.minimum(fits + self._by_colour, 1.0))
        return self._fits

    def where_moved(self, fits: Array) -> Array:
        """(all angles, all lengths) the fits where something moved, raised a little if it resembles
        the limb (background that is uncovered differs, too); what stays says nothing."""
        low, high = _MOVED_FIT
        moved = self._on_grid(self.moved)
        like = np.clip((fits - low) / (high - low), 0.0, 1.0)
        out: Array = np.minimum(fits, HIDDEN_FIT) + moved * (
            np.maximum(fits - HIDDEN_FIT, 0.0) + _MOVED * like
        )
        return out

    def _on_grid(self, some: Numbers) -> Array:
        out = np.zeros((len(ANGLES_DEG), len(LENGTHS)))
        out[np.ix_(self.angles, self.lengths)] = some
        return out


def lay(
    known: KnownLimb,
    block: FrameBlock,
    pivot: Array,
    held: Held,
    prior: Array | None,
    begin: Array | None,
    not_what_stays: NDArray[np.bool_] | None = None,
    before: LaidLimb | None = None,
) -> LaidLimb:
    """A limb's placement in a block of F frames. pivot : (F, 2) the joint above; held : by frame,
    the angle and length that were marked; prior : (F, A) log chances of its angles from elsewhere;
    begin : its states before the first;
    not_what_stays : (F,) the frames in which it is searched for only where something has moved;
    before : as `lay_again` has it. All in the block's order."""
    astray = np.zeros(len(pivot), dtype=bool) if not_what_stays is None else not_what_stays
    seen = _look_along(known, block, pivot, held=held, prior=prior, begin=begin, astray=astray)
    fits = np.stack([own.fits() for own in seen])
    _less_for_what_stays(fits, np.array([len(own.angles) == len(ANGLES_DEG) for own in seen]))
    for f in np.flatnonzero(astray):
        fits[f] = seen[f].where_moved(fits[f])
    return lay_again(
        known, block, pivot, held=held, prior=prior, fits=fits, begin=begin, before=before
    )


def lay_again(
    known: KnownLimb,
    block: FrameBlock,
    pivot: Array,
    held: Held,
    prior: Array | None,
    fits: Array,
    begin: Array | None,
    before: LaidLimb | None = None,
) -> LaidLimb:
    """The same from fits that were taken before. before : its earlier placement; what is as it was
    need not be placed again"""
    paths = likeliest_turns(evidence(fits, prior), held, block.step_s, begin)
    known.edge[block.backward] = paths.ahead
    if block.first:
        known.edge[not block.backward] = paths.chance[0]
    return _laid(known, block, pivot, paths, fits, before)


def _laid(
    known: KnownLimb,
    block: FrameBlock,
    pivot: Array,
    paths: Paths,
    fits: Array,
    before: LaidLimb | None,
) -> LaidLimb:
    strip = known.strip
    certain = chance_within(paths, _NEAR_SHARE * max(1.0, ARM_PX / strip.long))
    a, b = np.empty_like(pivot), np.empty_like(pivot)
    fit, like = np.empty(len(pivot)), np.empty(len(pivot))
    for f, picture in enumerate(block.pictures):
        if before is not None and before.lies(f, pivot[f], paths):
            a[f], b[f], fit[f], like[f] = before.a[f], before.b[f], before.fit[f], before.like[f]
            continue
        turn, length = float(paths.turn_deg[f]), float(paths.length[f])
        best = placed(strip, known.nearest(turn), picture, pivot[f], turn, length)
        a[f], b[f], fit[f] = best.a, best.b, best.fit
        by_looks = float(fits[f][state_of(turn, length)])
        by_colour = _filled_at(known, picture, best.a, best.b)
        counts = min(
            float(np.interp(by_looks, _KNOWN_LOOKS, _COUNTS_AS, left=-1.0)),
            float(np.interp(by_colour, _FILLED, _COUNTS_AS, left=-1.0)),
        )
        like[f] = max(best.fit, counts)
    return LaidLimb(
        a=a,
        b=b,
        fit=fit,
        like=like,
        certain=certain,
        short=known.limb.short,
        fits=fits,
        pivot=pivot,
        paths=paths,
    )


def _filled_at(known: KnownLimb, picture: Picture, a: Spot, b: Spot) -> float:
    """How much more of a limb's middle than of what is next to it has its colours, 0 to 1; 0 if
    these show nothing."""
    if not known.colour.tells:
        return 0.0
    turn, length = known.polar(b - a)
    window = known.strip.windows(picture, a, np.array([turn]), np.array([length]))
    return float(known.colour.filled(window)[0, 0]) / known.colour.clear


def _look_along(
    known: KnownLimb,
    block: FrameBlock,
    pivot: Array,
    held: Held,
    prior: Array | None,
    begin: Array | None,
    astray: NDArray[np.bool_],
) -> list[_AtAngles]:
    """What is seen in every frame about where the limb is going; new looks are learned on the
    way."""
    going = Filter(block.step_s, begin)
    since, lost = _LEARN_APART, False
    out: list[_AtAngles] = []
    for f, picture in enumerate(block.pictures):
        everywhere = lost or going.first or f % _ALL_EVERY == 0
        angles, lengths = _where_to_look(None if everywhere else going.coming(), block.step_s)
        windows = known.strip.windows(picture, pivot[f], ANGLES_DEG[angles], LENGTHS[lengths])
        moved = (
            known.strip.moved(block.moved[f], pivot[f], ANGLES_DEG[angles], LENGTHS[lengths])
            if astray[f]
            else np.zeros(windows.shape[:2], dtype=np.float32)
        )
        filled = known.colour.filled(windows)
        seen = _AtAngles(known.gallery, angles, lengths, StripLooks.of(windows), moved, filled)
        out.append(seen)
        fits = seen.fits()
        if f in held:
            going.hold(*held[f])
            continue
        likely = seen.where_moved(fits) if astray[f] else fits
        chance = going.see(evidence(likely, None if prior is None else prior[f]))
        a, s = np.unravel_index(int(chance.argmax()), chance.shape)
        fit = float(fits[a, s])
        lost = fit < _LOST_FIT
        since += 1
        near = float(chance[(a + np.arange(-2, 3)) % len(ANGLES_DEG)].sum())
        new = _LEARN_FIT[0] < fit < _LEARN_FIT[1] and near > _LEARN_SURE
        if new and since >= _LEARN_APART and not known.gallery.full:
            _learn(known, picture, pivot[f], float(ANGLES_DEG[a]))
            since = 0
    return out


def _where_to_look(
    coming: Array | None, step_s: float
) -> tuple[NDArray[np.int_], NDArray[np.int_]]:
    """The places on the grid: all angles, or those about where the limb is likely to be."""
    every, lengths = np.arange(len(ANGLES_DEG)), np.arange(len(LENGTHS))
    if coming is None:
        return every, _FAR_LENGTHS
    a, s = (int(v) for v in np.unravel_index(int(coming.argmax()), coming.shape))
    half = round(max(_FASTEST_DEG_S * step_s, _NEAR_DEG) / STEP_DEG)
    return (a + np.arange(-half, half + 1)) % len(every), lengths[max(s - 1, 0) : s + 2]


def _learn(known: KnownLimb, picture: Picture, pivot: Spot, about_deg: float) -> None:
    """Keep a new look. How long the limb is there, the coach's marks say, not what was learned from
    them."""
    strip = known.strip
    windows = strip.windows(picture, pivot, np.array([about_deg]), LENGTHS)
    rooted = evidence(known.gallery.root_fits(StripLooks.of(windows)).astype(float))
    length = float(LENGTHS[rooted[0].argmax()])
    best = placed(strip, known.nearest(about_deg), picture, pivot, about_deg, length)
    turn = direction_deg(best.b - best.a)
    known.gallery.learn(_look(strip, picture, pivot, turn, length), turn)


def _look(strip: Strip, picture: Picture, pivot: Spot, turn: float, length: float) -> Numbers:
    return look_of(strip.windows(picture, pivot, np.array([turn]), np.array([length]))[0, 0])


def _less_for_what_stays(fits: Array, whole: NDArray[np.bool_]) -> None:
    """Take from the fits (F, A, S), in place, what something that looks like the limb and never
    moves adds to them: the other arm at rest, for one, which is seen while the limb itself is
    elsewhere. whole : (F,) the frames in which every angle was looked at"""
    seen = fits[whole].max(axis=2)
    always = np.percentile(seen, _ALWAYS, axis=0)
    new = np.where(seen > _SEEN_FIT, seen - always, 0.0)
    there = new.argmax(axis=1)
    away = np.abs(apart_deg(ANGLES_DEG[there][:, None], ANGLES_DEG)) > _ELSEWHERE_DEG
    # Something new that fits far worse than what stays is no limb that has gone there.
    fit_there = np.take_along_axis(seen, there[:, None], axis=1)[:, 0]
    clearly = (new.max(axis=1) > _NEW_BY) & (fit_there > seen.max(axis=1) - _WORSE_BY)
    away &= clearly[:, None]
    often = away.sum(axis=0) >= _OFTEN
    meanwhile = np.where(often, np.nanmedian(np.where(away | ~often, seen, np.nan), axis=0), 0.0)
    fits -= np.maximum(meanwhile - _LIKE_FIT, 0.0)[:, None]


def direction_deg(along: Spot) -> float:
    """The direction of a step in the picture, 0 to 360."""
    return float(np.degrees(np.arctan2(along[1], along[0]))) % 360.0
