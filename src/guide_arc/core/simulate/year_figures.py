"""What a simulated year of training came to, in figures."""

from __future__ import annotations

import itertools
from datetime import date

from guide_arc.core.planning.history import form_of
from guide_arc.core.simulate.training import Trained


def share_held(year: tuple[Trained, ...]) -> float:
    """The share of sessions in which form truly held in every set."""
    return sum(t.held for t in year) / len(year)


def progress_kg(year: tuple[Trained, ...]) -> float:
    """How much more could be lifted once at the year's end than at its beginning, rested, kg."""
    return year[-1].fitness_kg - year[0].fitness_kg


def longest_stall(year: tuple[Trained, ...]) -> int:
    """The most sessions in a row that asked for the same weight and reps, although each of them was
    done whole with form seen to hold, and that named nothing to look for and no easier week."""
    longest = run = 0
    for before, t in itertools.pairwise(year):
        done = all(s.weaker >= before.asked.reps[1] for s in before.done)
        whole = done and form_of(before.done) == "held"
        same = (t.asked.load_kg, t.asked.reps) == (before.asked.load_kg, before.asked.reps)
        explained = t.asked.look_for or t.asked.ask or t.asked.change == "deload"
        run = run + 1 if whole and same and not explained else 0
        longest = max(longest, run)
    return longest


def sessions_to_recover(year: tuple[Trained, ...], back_on: date) -> int:
    """After a break, the sessions until form held and the next dose was harder than the first one
    after it; the number of sessions plus one if there was none."""
    after = [t for t in year if t.on >= back_on]
    for n, t in enumerate(after[1:], 1):
        first = after[0].asked
        harder = (t.asked.load_kg or 0.0, t.asked.reps) > (first.load_kg or 0.0, first.reps)
        if harder and any(before.held for before in after[:n]):
            return n
    return len(after) + 1
