"""Where a limb points in every frame, from how well its look fits at every angle and length.

A hidden Markov model: the states are angles and lengths in the picture, a frame's evidence is the
fit of the look, and from frame to frame a limb turns a little, seldom much. Each frame uses the
evidence of all frames, those before and those after (forward-backward algorithm; Rabiner 1989),
which gives a probability to every state."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.capture.tracking.strips import ANGLES_DEG, LENGTHS, STEP_DEG, apart_deg
from guide_arc.core.kinematics.vectors import Array

# Log likelihood of an angle per unit of fit; below the floor nothing is distinguished: the limb
# is hidden.
SHARP: Final = 28.0
HIDDEN_FIT: Final = 0.5
# Usual and seldom turning, degrees a second; share of the seldom one.
_USUAL_DEG_S: Final = 150.0
_SELDOM_DEG_S: Final = 700.0
_SELDOM: Final = 0.06
_LENGTH_STAYS: Final = 0.9
# The length that was marked is the likely one.
_LENGTH_SPREAD: Final = 0.06


@dataclass(frozen=True, eq=False)
class Paths:
    """turn_deg, length : (F,) the likeliest state, between the grid's; chance : (F, A, S) of every
    state;
    ahead : (A, S) of the last frame, without what comes after it"""

    turn_deg: Array
    length: Array
    chance: Array
    ahead: Array


Held = Mapping[int, tuple[float, float]]


def evidence(fits: Array, prior: Array | None = None) -> Array:
    """(..., A, S) log chances from fits (..., A, S). prior : (..., A) log chances from elsewhere"""
    log: Array = np.logaddexp(SHARP * fits, SHARP * HIDDEN_FIT)
    log = log - 0.5 * (np.log(LENGTHS) / _LENGTH_SPREAD) ** 2
    return log if prior is None else log + prior[..., None]


class Filter:
    """The chances of a limb's angles and lengths, frame after frame, from what came before."""

    def __init__(self, step_s: float, chance: Array | None) -> None:
        self._turning, self._growing = _turning(step_s), _growing()
        self.chance = np.full((len(ANGLES_DEG), len(LENGTHS)), 1.0) if chance is None else chance
        self.first = chance is None

    def coming(self) -> Array:
        """(A, S) before the next frame is looked at."""
        return self.chance if self.first else self._turning @ self.chance @ self._growing

    def see(self, log: Array) -> Array:
        self.chance = self.coming() * np.exp(log - log.max())
        self.chance /= self.chance.sum() + 1e-300
        self.first = False
        return self.chance

    def hold(self, turn_deg: float, length: float) -> Array:
        self.chance = np.zeros_like(self.chance)
        self.chance[state_of(turn_deg, length)] = 1.0
        self.first = False
        return self.chance


def state_of(turn_deg: float, length: float) -> tuple[int, int]:
    return round(turn_deg / STEP_DEG) % len(ANGLES_DEG), int(np.abs(LENGTHS - length).argmin())


def likeliest_turns(log: Array, held: Held, step_s: float, begin: Array | None) -> Paths:
    """log : (F, A, S) the evidence; held : by frame, the angle and length that the coach marked;
    begin : (A, S) chances at the frame before the first"""
    frames = len(log)
    seen = np.exp(log - log.max(axis=(1, 2), keepdims=True))
    for frame, state in held.items():
        seen[frame] = 0.0
        seen[frame][state_of(*state)] = 1.0
    turning, growing = _turning(step_s), _growing()
    ahead, back = np.empty_like(seen), np.empty_like(seen)
    now = np.full(seen.shape[1:], 1.0) if begin is None else turning @ begin @ growing
    for f in range(frames):
        now = now * seen[f]
        now /= now.sum() + 1e-300
        ahead[f] = now
        now = turning @ now @ growing
    later = np.ones(seen.shape[1:])
    for f in range(frames - 1, -1, -1):
        back[f] = later
        later = turning @ (later * seen[f]) @ growing
        later /= later.sum() + 1e-300
    chance = ahead * back
    chance /= chance.sum(axis=(1, 2), keepdims=True) + 1e-300
    turn_deg, length = _modes(chance)
    return Paths(turn_deg, length, chance, ahead[-1])


def _turning(step_s: float) -> Array:
    """(A, A) how likely a limb turns from one angle to another in a frame."""
    apart = np.abs(apart_deg(ANGLES_DEG[:, None], ANGLES_DEG))
    usual = np.exp(-0.5 * (apart / max(_USUAL_DEG_S * step_s, 0.7 * STEP_DEG)) ** 2)
    seldom = np.exp(-apart / max(_SELDOM_DEG_S * step_s, STEP_DEG))
    out: Array = (1 - _SELDOM) * usual / usual.sum(axis=1)[:, None] + _SELDOM * seldom / seldom.sum(
        axis=1
    )[:, None]
    return out


def _growing() -> Array:
    out = np.eye(len(LENGTHS)) * _LENGTH_STAYS
    for i in range(len(LENGTHS) - 1):
        out[i, i + 1] = out[i + 1, i] = 0.5 * (1 - _LENGTH_STAYS)
    even: Array = out / out.sum(axis=1)[:, None]
    return even


def _modes(chance: Array) -> tuple[Array, Array]:
    """The likeliest angle and length of each frame, from the states about the likeliest one."""
    angles = chance.sum(axis=2)
    wide = angles + np.roll(angles, 1, axis=1) + np.roll(angles, -1, axis=1)
    best = wide.argmax(axis=1)
    steps = np.arange(-2, 3)
    at = (best[:, None] + steps) % len(ANGLES_DEG)
    own = np.take_along_axis(angles, at, axis=1) + 1e-12
    turn = ANGLES_DEG[best] + STEP_DEG * (own * steps).sum(axis=1) / own.sum(axis=1)
    lengths = np.take_along_axis(chance, at[:, :, None], axis=1).sum(axis=1) + 1e-12
    return turn, (lengths * LENGTHS).sum(axis=1) / lengths.sum(axis=1)


def chance_within(paths: Paths, within: float) -> Array:
    """(F,) probability that the limb's end is within a distance of the estimate, as shares of its
    length."""
    turn, own = np.radians(ANGLES_DEG)[:, None], np.radians(paths.turn_deg)
    ends = np.stack((LENGTHS * np.cos(turn), LENGTHS * np.sin(turn)), axis=-1)
    said = paths.length[:, None] * np.stack((np.cos(own), np.sin(own)), axis=-1)
    near = [np.hypot(*np.moveaxis(ends - spot, -1, 0)) <= within for spot in said]
    out: Array = (paths.chance * np.array(near)).sum(axis=(1, 2))
    return out
