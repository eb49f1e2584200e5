"""Where to put the phone for an exercise: what one recording shows, and which second one adds
most."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np

from guide_arc.core.checks.registry import must_hold
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View
from guide_arc.standards.proof import BRISK, Cycle, Progress, cycle_of, judged_from

# A phone's usual lens films this much along the long and the short edge of its picture, degrees.
_LONG_DEG: Final = 65.0
_SHORT_DEG: Final = 39.5
# Room about the body, so that a step or a raised plate does not leave the picture.
_ROOM: Final = 1.2
# Nearer than this what is nearer to the phone looks larger by more than the checks allow for.
_LEAST_M: Final = 2.5
_STEP_M: Final = 0.5
_HEIGHTS_M: Final = (0.4, 1.6)
_WORKING: Final = tuple(f"{s}_{part}" for s in SIDES for part in ("shoulder", "elbow", "wrist"))
# A check that bars the next weight counts for so many others.
_DECIDING: Final = 3


@dataclass(frozen=True)
class PhonePlace:
    """Where one recording is made from.

    view : the side of the body that faces the phone; of an exercise for one arm the left arm works
    shows : the checks that such a recording judges; adds : those of them that the first recording
        hides
    distance_m : from the body; height_m : of the lens over the floor; upright : how the phone is
        held
    """

    view: View
    shows: tuple[str, ...]
    adds: tuple[str, ...]
    distance_m: float
    height_m: float
    upright: bool


@dataclass(frozen=True)
class FilmingPlan:
    """How to film an exercise.

    second : the recording that adds most to the first; None if none adds anything
    unseen : the checks that no single phone shows from either place; cycle : the movement that the
        places are for
    """

    standard: Standard
    first: PhonePlace
    second: PhonePlace | None
    unseen: tuple[str, ...]
    cycle: Cycle


def filming_plan(standard: Standard, progress: Progress = lambda _share: None) -> FilmingPlan:
    """The recording that judges most of what decides about the next weight, and the one that adds
    most to it.

    What each view judges was tried on clean sets (`standards/proof.py`); a coach's own standard is
    tried now, which takes seconds.
    """
    judged = judged_from(standard, progress)
    weights = {
        rule.name: _DECIDING if rule.name in must_hold(standard) else 1 for rule in standard.checks
    }
    told: dict[View, frozenset[str]] = {
        view: frozenset(n for n in weights if shown.get(n))
        for view, shown in judged.items()
        if view != "none"
    }
    recommended = [view for view in told if view in standard.views] or list(told)
    recommended.sort(key=lambda view: standard.views.index(view) if view in standard.views else 0)
    first = max(recommended, key=lambda view: _worth(told[view], weights))
    adds = {view: _worth(told[view] - told[first], weights) for view in told}
    second = max(adds, key=lambda view: (adds[view], view in standard.views))
    cycle = _cycle(standard)
    places = [_place(cycle, first, told, first)]
    if adds[second] > 0:
        places.append(_place(cycle, second, told, first))
    seen = {name for place in places for name in place.shows}
    return FilmingPlan(
        standard,
        places[0],
        places[1] if len(places) > 1 else None,
        tuple(name for name in weights if name not in seen),
        cycle,
    )


def _worth(names: frozenset[str], weights: Mapping[str, int]) -> int:
    return sum(weights[name] for name in names)


@lru_cache(maxsize=128)
def _cycle(standard: Standard) -> Cycle:
    return cycle_of(standard, BRISK)


def _place(
    cycle: Cycle, view: View, told: Mapping[View, frozenset[str]], first: View
) -> PhonePlace:
    names = [rule.name for rule in cycle.standard.checks]
    distance_m, height_m, upright = place_in_room(cycle, view)
    return PhonePlace(
        view,
        tuple(name for name in names if name in told[view]),
        tuple(name for name in names if name in told[view] - told[first]),
        distance_m,
        height_m,
        upright,
    )


def place_in_room(cycle: Cycle, view: View) -> tuple[float, float, bool]:
    """Distance and height of a phone whose picture contains the whole movement, and whether it is
    upright."""
    across, ahead = (2, 0) if view in SIDES else (0, 2)
    size = np.ptp(cycle.extent, axis=0)
    wide, tall, deep = float(size[across]), float(size[1]), float(size[ahead])
    upright = tall >= wide
    along, other = (tall, wide) if upright else (wide, tall)
    needed = max(_away(along, _LONG_DEG), _away(other, _SHORT_DEG)) + 0.5 * deep
    distance_m = max(_LEAST_M, float(np.ceil(needed / _STEP_M)) * _STEP_M)
    heights: Array = np.concatenate([cycle.points[name][:, 1] for name in _WORKING])
    middle = 0.5 * float(heights.min() + heights.max())
    height_m = round(float(np.clip(middle, *_HEIGHTS_M)), 1)
    return distance_m, height_m, upright


def _away(size_m: float, lens_deg: float) -> float:
    return 0.5 * _ROOM * size_m / float(np.tan(np.radians(0.5 * lens_deg)))
