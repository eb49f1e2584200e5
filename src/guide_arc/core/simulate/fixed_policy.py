"""Fixed rules of progression, against which the dose engine is measured: the best of them is found
by search on the same simulated client."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import ceil
from typing import Final

from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.scheme import Scheme
from guide_arc.core.simulate.training import SimulatedClient, Trained, trained_year
from guide_arc.core.simulate.year_figures import progress_kg, share_held

# What is tried: reps left in reserve, sessions held before the next weight, weeks from one easier
# week to the next (0: none), and how far below the scheme's load the year begins.
_RESERVES: Final = (1, 2, 3)
_SESSIONS_HELD: Final = (1, 2, 3)
_EASIER_EVERY: Final = (0, 6, 9)


@dataclass(frozen=True)
class FixedPolicy:
    """The next weight after so many sessions in which every set came to the upper number with form
    held; the weight before after one in which form broke. It sees form as it truly was. A step of
    more than a tenth asks as much of it as of the dose engine.

    in_reserve : reps that each set leaves; held : sessions; easier_every : weeks; 0 for never
    """

    rack_kg: tuple[float, ...]
    reps: tuple[int, int]
    in_reserve: int
    held: int
    easier_every: int

    def __call__(self, done: tuple[Trained, ...], day: date) -> Prescription:
        """The next session."""
        last = done[-1]
        load = last.asked.load_kg or self.rack_kg[0]
        at = self.rack_kg.index(load)
        step = self.rack_kg[min(at + 1, len(self.rack_kg) - 1)]
        large = step > load * (1.0 + PLAN.most_jump_share)
        most = self.reps[1] + (ceil(PLAN.more_reps_share * self.reps[1]) if large else 0)
        needed = max(self.held, PLAN.sessions_before_a_step) if large else self.held
        full = [t.held and all(s.weaker >= most for s in t.done) for t in done]
        same = [t.asked.load_kg == load for t in done]
        run = sum(
            1 for _ in itertools.takewhile(all, zip(reversed(full), reversed(same), strict=True))
        )
        if not last.held:
            at = max(at - 1, 0)
        elif run >= needed:
            at = min(at + 1, len(self.rack_kg) - 1)
        week = (day - done[0].on).days // 7
        easier = self.easier_every and week % self.easier_every == self.easier_every - 1
        return replace(
            last.asked,
            load_kg=self.rack_kg[at],
            reps=(self.reps[0], most),
            sets=max(done[0].asked.sets // 2, 1) if easier else done[0].asked.sets,
            in_reserve=self.in_reserve,
        )


def policies(rack_kg: tuple[float, ...], reps: tuple[int, int]) -> Iterator[FixedPolicy]:
    """All that are tried."""
    for reserve, held, easier in itertools.product(_RESERVES, _SESSIONS_HELD, _EASIER_EVERY):
        yield FixedPolicy(rack_kg, reps, reserve, held, easier)


def best_of(
    clients: Sequence[Callable[[], SimulatedClient]],
    standard: Standard,
    rack_kg: tuple[float, ...],
    scheme: Scheme,
    layoff: tuple[int, int] | None,
    least_held: float,
) -> tuple[FixedPolicy, float]:
    """The policy with the most progress, and that progress in kg, as means over the clients; of
    policies under which form held in at least a share of the sessions, if there is one.

    clients : each makes the same client again, so that each policy trains a fresh one
    """
    found = []
    low, high = scheme.dose(standard).reps
    # A scheme that grows by reps goes to its most reps before the next weight.
    high = scheme.most_reps if scheme.grows == "reps" else high
    for policy in policies(rack_kg, (low, high)):
        years = [
            trained_year(make(), standard, rack_kg, scheme, layoff=layoff, policy=policy)
            for make in clients
        ]
        held = sum(map(share_held, years)) / len(years)
        progress = sum(map(progress_kg, years)) / len(years)
        found.append((held >= least_held, progress, policy))
    _sound, progress, policy = max(found, key=lambda f: f[:2])
    return policy, progress
