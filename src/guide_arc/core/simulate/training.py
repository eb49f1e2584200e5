"""Simulated training: a client whose strength and form answer to what is done, and histories at
random.

A two-component model of training (fitness and fatigue, each fading on its own time; Banister 1975)
sets how many reps a weight allows that day; the load-repetition relation is 1 RM = kg (1 + reps /
30) (Epley 1985). Form gives way in the last reps before failure.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Final

import numpy as np

from guide_arc.core.model.client import SorePlace
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.standard import Harm, Standard
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.history import DoneSet, History, Seen
from guide_arc.core.planning.scheme import PLAIN_SCHEME, Scheme

# How fast fitness and fatigue fade, days, and what a hard set adds of each, as a share of strength.
_FITNESS_DAYS: Final = 45.0
_FATIGUE_DAYS: Final = 9.0
_FITNESS_GAIN: Final = 0.006
_FATIGUE_GAIN: Final = 0.0055
# In so many of the last reps before failure form may give way.
_LOOSE_REPS: Final = 1.5
_CHECKS: Final[tuple[tuple[str, Harm], ...]] = (
    ("torso-swing", "spine"),
    ("momentum", "joint"),
    ("elbow-path", "effect"),
)
START: Final = date(2031, 1, 6)


@dataclass
class SimulatedClient:
    """strength_kg : what can be lifted once, fresh and untrained; arms_apart : how much weaker the
    right arm is

    potential : how far above it training leads at most, as a share
    """

    strength_kg: float
    seed: int = 1
    potential: float = 0.35
    arms_apart: float = 0.04
    _done: list[tuple[date, float]] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._rng = np.random.default_rng(self.seed)

    def strength_on(self, day: date) -> float:
        """What can be lifted once on a day."""
        ago = np.array([(day - on).days for on, _ in self._done], dtype=float)
        hard = np.array([h for _, h in self._done])
        fitness = (
            _FITNESS_GAIN * float((hard * np.exp(-ago / _FITNESS_DAYS)).sum()) if len(ago) else 0.0
        )
        fatigue = (
            _FATIGUE_GAIN * float((hard * np.exp(-ago / _FATIGUE_DAYS)).sum()) if len(ago) else 0.0
        )
        gained = self.potential * (1.0 - float(np.exp(-fitness / self.potential)))
        return self.strength_kg * (1.0 + gained) * (1.0 - min(fatigue, 0.5))

    def train(self, day: date, dose: Prescription, load_kg: float) -> tuple[DoneSet, ...]:
        """The sets of one session at a dose, as far as strength allows."""
        out = []
        fresh = self.strength_on(day) * float(self._rng.normal(1.0, 0.015))
        for n in range(dose.sets):
            able = [fresh * (1.0 - 0.03 * n) * weaker for weaker in (1.0, 1.0 - self.arms_apart)]
            most = [max(int(30.0 * (kg / load_kg - 1.0)), 0) for kg in able]
            reps = [min(m, dose.reps[1]) for m in most]
            out.append(DoneSet(day, load_kg, reps[0], reps[1], findings=self._form(most, reps)))
            self._done.append((day, min(min(reps) / max(min(most), 1), 1.0)))
        return tuple(out)

    def _form(self, most: list[int], reps: list[int]) -> tuple[Seen, ...]:
        """Near failure form gives way, more often the nearer."""
        left = min(m - r for m, r in zip(most, reps, strict=True))
        loose = float(np.clip(1.0 - left / _LOOSE_REPS, 0.0, 1.0)) * 0.55
        return tuple(
            Seen(check, "off" if self._rng.random() < loose else "ok", harm)
            for check, harm in _CHECKS
        )


@dataclass(frozen=True)
class Trained:
    """One session of a simulated year: what was asked, and what was done of it."""

    on: date
    asked: Prescription
    done: tuple[DoneSet, ...]
    strength_kg: float


def trained_year(
    client: SimulatedClient,
    standard: Standard,
    rack_kg: tuple[float, ...],
    scheme: Scheme = PLAIN_SCHEME,
    sessions_a_week: int = 2,
    layoff: tuple[int, int] | None = None,
    weeks: int = 52,
) -> tuple[Trained, ...]:
    """A year of one exercise by the dose engine. layoff : weeks from and to which nothing is
    done"""
    out: list[Trained] = []
    sets: list[DoneSet] = []
    gaps = {1: (0,), 2: (0, 3), 3: (0, 2, 4)}[sessions_a_week]
    first = min(rack_kg, key=lambda kg: abs(kg - 0.6 * client.strength_kg))
    for week in range(weeks):
        if layoff and layoff[0] <= week < layoff[1]:
            continue
        for gap in gaps:
            day = START + timedelta(days=7 * week + gap)
            if sets:
                asked = next_dose(History(standard, rack_kg, tuple(sets), day, scheme=scheme))
            else:
                dose = scheme.dose(standard)
                asked = Prescription(
                    change="same",
                    load_kg=first,
                    reps=dose.reps,
                    sets=dose.sets[0],
                    tempo=scheme.tempo(standard),
                    rest_s=dose.rest_s,
                    reasons=("the first",),
                )
            if asked.load_kg is None:
                continue
            strength = client.strength_on(day)
            done = client.train(day, asked, asked.load_kg)
            sets += done
            out.append(Trained(day, asked, done, strength))
    return tuple(out)


_ANY_CHECKS: Final[tuple[tuple[str, Harm], ...]] = (
    *_CHECKS,
    ("shoulder-hike", "joint"),
    ("end-point", "effect"),
)


def any_history(random_: random.Random, standard: Standard) -> History:
    """A history at random: odd racks, doubts, pain, sore places, help that counts the other way
    round."""
    rack = tuple(
        sorted({round(random_.uniform(2, 80) * 2) / 2 for _ in range(random_.randint(1, 30))})
    )
    on, sets = START, []
    for _ in range(random_.randint(1, 6)):
        for _ in range(random_.randint(1, 3)):
            seen = tuple(
                Seen(
                    check,
                    random_.choices(("ok", "near", "off", "cannot-tell"), (8, 1, 1, 1))[0],
                    harm,
                )
                for check, harm in _ANY_CHECKS
            )
            kg = random_.choice((*rack, random_.uniform(2, 80), None))
            left, right = random_.randint(0, 15), random_.randint(0, 15)
            sets.append(DoneSet(on, kg, left, right, findings=seen, pain=random_.random() < 0.05))
        on += timedelta(random_.randint(1, 12))
    sore: tuple[SorePlace, ...] = ()
    if random_.random() < 0.1:
        sore = (SorePlace("elbow", START + timedelta(random_.randint(0, 40))),)
    tired = tuple(on - timedelta(random_.randint(0, 20)) for _ in range(random_.randint(0, 3)))
    return History(
        standard,
        rack,
        tuple(sets),
        sets[-1].on + timedelta(random_.randint(0, 30)),
        random_.random() < 0.2,
        sore=sore,
        tired=tired,
    )
