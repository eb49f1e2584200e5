"""The placement of a limb that the first search put in a wrong place.

An upper arm in front of a shirt of the same cloth fits anywhere on it, with high confidence. But
where the elbow truly is the forearm is seen, and nowhere else. And a forearm that was found on a
rack, on background that is there even while it is elsewhere, is more likely where something moves.
"""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import binary_dilation

from guide_arc.capture.tracking.limbs import Spot
from guide_arc.capture.tracking.looks import Numbers, StripLooks
from guide_arc.capture.tracking.one_limb import FrameBlock, KnownLimb, LaidLimb, direction_deg
from guide_arc.capture.tracking.refine import placed
from guide_arc.capture.tracking.strips import ANGLES_DEG, Picture, apart_deg
from guide_arc.capture.tracking.turning import HIDDEN_FIT, SHARP
from guide_arc.core.kinematics.vectors import Array

# A limb that fits like this in most frames is distinguished from what is behind it; one that fits
# like that is not there.
_USUAL_FIT: Final = 0.68
_GONE_FIT: Final = 0.52
# Gone for less of a block it was hidden; and a block in which it was never seen shows nothing.
_LEAST_SHARE: Final = 0.04
_MOST_SHARE: Final = 0.8
# Directions that are tried: every so many of the grid for the limb above, and about where this one
# was before and after. At a glance, every so many frames; at a first one, that looks everywhere, so
# many frames in all.
_EVERY: Final = 2
_GLANCES: Final = 24
_ABOUT_DEG: Final = np.arange(-42.0, 43.0, 7.0)
_WHOLE: Final = np.ones(1)
_BESIDE: Final = 2
# Over a background that is not the marked one a limb that is there fits so, and better than where
# it was searched for first.
_THERE_FIT: Final = 0.46
_CLEARLY: Final = 0.06
# What has moved along less of a limb's length stays, and more has moved for sure; less than that
# uncovers nothing. At so many moments it is looked at, of which the limb is elsewhere, by this
# share of its length, in a few at least.
_STAYS: Final = 0.25
_MOVED: Final = 0.8
_UNCOVERED: Final = 0.04
_TIMES: Final = 24
_FEW: Final = 3
_ELSEWHERE: Final = 0.6
# Another direction than that of the limb above.
_OTHER_DEG: Final = 40.0
# A coarse search handles each frame alone, and may be a little off.
_GLANCE: Final = 0.03
# The weight of a limb's own fit if the next limb is not at its end.
_OF_CLOTH: Final = 0.08


def missed(laid: LaidLimb) -> NDArray[np.bool_] | None:
    """(F,) the frames in which a limb is not in its search area, although it is well seen in the
    others; None if that is too few or too many of them to say so."""
    gone: NDArray[np.bool_] = laid.fit < _GONE_FIT
    share = float(gone.mean())
    if not _LEAST_SHARE < share < _MOST_SHARE or np.median(laid.fit[~gone]) < _USUAL_FIT:
        return None
    # Before it was missed the limb above had begun to go astray.
    about: NDArray[np.bool_] = binary_dilation(gone, iterations=_BESIDE)
    return about


def found_there(before: LaidLimb, after: LaidLimb, gone: NDArray[np.bool_]) -> bool:
    """Whether a limb that was missed is seen where the second look puts it."""
    was, now = (float(np.median(laid.fit[gone])) for laid in (before, after))
    return now > _THERE_FIT and now > was + _CLEARLY


def may_be_about(
    above: KnownLimb,
    pivot: Array,
    child: KnownLimb,
    laid: LaidLimb,
    gone: NDArray[np.bool_],
    block: FrameBlock,
) -> bool:
    """Whether a limb that was missed may be seen about any place where the end of the limb above
    can be: a glance at some of the frames in which it was, before all of them are looked at. pivot
    : (F, 2) the joint that the limb above turns about
    """
    usual, fits = _usually(laid, gone), []
    frames = np.flatnonzero(gone)
    for f in frames[:: max(_EVERY, len(frames) // _GLANCES)]:
        ends, turns = pivot[f] + _ends(above), usual[f] + _ABOUT_DEG
        like = _root_fits(child, block.pictures[f], ends, turns)
        i, j = np.unravel_index(int(like.argmax()), like.shape)
        fits.append(_fit(child, block.pictures[f], ends[i], float(turns[j])))
    return _may_be(laid, gone, fits)


def may_be_there(
    child: KnownLimb, joint: Array, laid: LaidLimb, gone: NDArray[np.bool_], block: FrameBlock
) -> bool:
    """Whether a limb that was missed may be seen about another joint, (F, 2), in the frames in
    which it was: a glance at these, before all of the block is gone through again."""
    usual, fits = _usually(laid, gone), []
    for f in np.flatnonzero(gone)[::_EVERY]:
        turns = usual[f] + _ABOUT_DEG
        like = _root_fits(child, block.pictures[f], joint[f][None], turns)[0]
        fits.append(_fit(child, block.pictures[f], joint[f], float(turns[like.argmax()])))
    return _may_be(laid, gone, fits)


def _may_be(laid: LaidLimb, gone: NDArray[np.bool_], fits: list[float]) -> bool:
    was, now = float(np.median(laid.fit[gone])), float(np.median(fits))
    return now > _THERE_FIT - _GLANCE and now > was + _CLEARLY - _GLANCE


def _root_fits(child: KnownLimb, picture: Picture, joints: Array, turns_deg: Array) -> Numbers:
    """(P, A) how well a limb's marked looks fit about some joints, (P, 2), at some angles."""
    windows = child.strip.windows_about(picture, joints, turns_deg, _WHOLE)
    out: Numbers = child.gallery.root_fits(StripLooks.of(windows))[:, :, 0]
    return out


def _fit(child: KnownLimb, picture: Picture, joint: Spot, turn_deg: float) -> float:
    """How well a limb fits about a joint and an angle, placed exactly."""
    return placed(child.strip, child.nearest(turn_deg), picture, joint, turn_deg, 1.0).fit


def _ends(above: KnownLimb) -> Array:
    """(P, 2) where the end of a limb is from its joint, at the directions that are tried."""
    turns = np.radians(ANGLES_DEG[::_EVERY])
    return above.strip.long * np.stack((np.cos(turns), np.sin(turns)), axis=-1)


def on_what_stays(
    known: KnownLimb, laid: LaidLimb, above: Array, block: FrameBlock
) -> NDArray[np.bool_]:
    """(F,) the frames in which a limb was found on background that is there even while the limb is
    elsewhere, and either its template fits badly or something else moves around its joint. above :
    (F, 2) the other end of the limb that it hangs on

    A limb that rests uncovers what is behind it when it goes; a rack that looks like it does not.
    """
    turns, lengths = laid.paths.turn_deg, laid.paths.length
    out = np.zeros(len(laid.a), dtype=bool)
    some = np.linspace(0, len(out) - 1, min(_TIMES, len(out))).round().astype(int)
    moments = np.stack([block.moved[f] for f in some])
    for f in range(len(out)):
        pivot, turn, length = laid.pivot[f], turns[f : f + 1], lengths[f : f + 1]
        away = np.hypot(*(laid.b[some] - laid.b[f]).T) > _ELSEWHERE * known.strip.long
        if away.sum() < _FEW or known.strip.moved(block.moved[f], pivot, turn, length) > _STAYS:
            continue
        then = known.strip.moved_then(moments[away], pivot, float(turn[0]), float(length[0]))
        if np.median(then) > _UNCOVERED:
            continue
        every = known.strip.moved(block.moved[f], pivot, ANGLES_DEG[::_EVERY], _WHOLE)[:, 0]
        beside = (
            np.abs(apart_deg(ANGLES_DEG[::_EVERY], direction_deg(above[f] - pivot))) > _OTHER_DEG
        )
        out[f] = laid.fit[f] < _USUAL_FIT or every[beside].max() > _MOVED
    return out


def of_cloth(fits: Array, gone: NDArray[np.bool_]) -> Array:
    """(F, A, S) the fits of the limb above: where its child is missed they say little, as the same
    cloth is behind it."""
    out: Array = np.where(gone[:, None, None], HIDDEN_FIT + _OF_CLOTH * (fits - HIDDEN_FIT), fits)
    return out


def by_the_next(
    above: KnownLimb,
    pivot: Array,
    child: KnownLimb,
    laid: LaidLimb,
    gone: NDArray[np.bool_],
    block: FrameBlock,
) -> Array:
    """(F, A) log chances of the directions of the limb above, from how well its child fits at the
    end of each.

    pivot : (F, 2) the joint that the limb above turns about; laid, gone (placement, lost frames) :
    of the child"""
    out = np.zeros((len(pivot), len(ANGLES_DEG)))
    usual, ends = _usually(laid, gone), _ends(above)
    tried = np.arange(0, len(ANGLES_DEG), _EVERY)
    for f in np.flatnonzero(gone):
        like = _root_fits(child, block.pictures[f], pivot[f] + ends, usual[f] + _ABOUT_DEG)
        fits = like.max(axis=1)
        log = np.logaddexp(SHARP * fits, SHARP * HIDDEN_FIT)
        out[f] = np.interp(
            np.arange(len(ANGLES_DEG)), tried, log - log.max(), period=len(ANGLES_DEG)
        )
    return out


def _usually(laid: LaidLimb, gone: NDArray[np.bool_]) -> Array:
    """(F,) where a limb pointed before and after it was missed, degrees."""
    going = np.array([direction_deg(along) for along in laid.b - laid.a])
    known = np.flatnonzero(~gone)
    out: Array = np.interp(
        np.arange(len(going)), known, np.degrees(np.unwrap(np.radians(going[known])))
    )
    return out
