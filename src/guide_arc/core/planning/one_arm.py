"""Training around a sore place: the arm that does not hurt goes on alone if the exercise can be
done with one arm; and the way back after a clinician's clearance."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Final

from guide_arc.core.model.client import SorePlace
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.history import DoneSet, History
from guide_arc.core.planning.loaded import places_loaded

# What each hand holds for itself.
_ONE_A_HAND: Final = ("dumbbell", "dumbbells", "handle", "handles")


def can_be_alone(standard: Standard) -> bool:
    """Whether one arm can do an exercise without the other."""
    return standard.arms != "both" or standard.held in _ONE_A_HAND


def spared_arm(standard: Standard, sore: Iterable[SorePlace]) -> Side | None:
    """The arm that can go on alone: every sore place that the exercise loads is on the other
    side. None if neither is sore, or if the exercise needs both arms."""
    loaded = places_loaded(standard)
    places = [s.place for s in sore if s.joint in loaded]
    if not places or not can_be_alone(standard):
        return None
    return next(
        (arm for arm in SIDES if all(p.startswith(f"{_other(arm)} ") for p in places)), None
    )


def of_arm(history: History, arm: Side) -> History | None:
    """What was done with one arm, as if it were all: its reps, and what is sore or hurt but for the
    other arm's. None if it did nothing yet."""
    other = _other(arm)
    sets = tuple(_own_part(done, arm) for done in history.sets)
    own = tuple(done for done in sets if done.left_reps or done.right_reps)
    if not own:
        return None
    sore = tuple(s for s in history.sore if not s.place.startswith(f"{other} "))
    return replace(history, sets=own, sore=sore)


def _own_part(done: DoneSet, arm: Side) -> DoneSet:
    """One arm's part in a set. Pain reported for the other arm only is not its own; pain
    without a place is."""
    other = _other(arm)
    elsewhere = bool(done.felt) and all(other in words.lower() for words in done.felt)
    return replace(
        done,
        left_reps=done.left_reps if arm == "left" else 0,
        right_reps=done.right_reps if arm == "right" else 0,
        one_arm=True,
        pain=done.pain and not elsewhere,
        felt=tuple(w for w in done.felt if other not in w.lower() or arm in w.lower()),
    )


def alike(stopped: Standard, offered: Sequence[Standard]) -> list[Standard]:
    """Exercises that may replace one that has to rest, the most similar first: the same region, the
    same muscle, the same kit."""

    def unlike(plan: Standard) -> tuple[bool, bool, bool, str]:
        return (
            plan.region != stopped.region,
            plan.muscle != stopped.muscle,
            plan.pull != stopped.pull,
            plan.name,
        )

    return sorted(offered, key=unlike)


def _other(arm: Side) -> Side:
    return "right" if arm == "left" else "left"
