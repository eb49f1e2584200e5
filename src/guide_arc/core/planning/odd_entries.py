"""Entries of a history that look like slips of the keyboard: they are asked about, not corrected in
silence."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from statistics import median
from typing import Final, Literal

from guide_arc.core.planning.history import NO_PAST, DoneSet, History

Slip = Literal["load", "day", "arm"]

# A load so many times the usual, or that part of it, is a slip of the decimal point.
_TEN_TIMES: Final = (8.0, 12.5)
_TENTH: Final = (0.08, 0.125)
# Pounds typed for kilograms are 2.2046 times as many.
_POUNDS: Final = (2.12, 2.29)
_KG_PER_POUND: Final = 0.45359237
# The usual load is the middle of so many sessions before.
_SESSIONS: Final = 10


@dataclass(frozen=True)
class OddEntry:
    """A set that is left out until its question is answered. index : of the history's sets
    meant_kg : the load that was probably meant"""

    index: int
    slip: Slip
    question: str
    meant_kg: float | None = None


@dataclass(frozen=True)
class OddLoad:
    """A load that differs much from the usual one. meant_kg : what was probably meant"""

    question: str
    meant_kg: float


def odd_load(load_kg: float, usual_kg: float, when: str = "") -> OddLoad | None:
    """What a load looks like that is about ten times the usual, a tenth of it, or pounds."""
    if not usual_kg:
        return None
    times, typed = load_kg / usual_kg, f"{load_kg:g} kg{when}"
    if _TEN_TIMES[0] <= times <= _TEN_TIMES[1]:
        meant = load_kg / 10
        words = f"about ten times the usual {usual_kg:g} kg: is it {meant:g} kg?"
    elif _TENTH[0] <= times <= _TENTH[1]:
        meant = load_kg * 10
        words = f"about a tenth of the usual {usual_kg:g} kg: is it {meant:g} kg?"
    elif _POUNDS[0] <= times <= _POUNDS[1]:
        meant = load_kg * _KG_PER_POUND
        words = f"2.2 times the usual {usual_kg:g} kg: are these pounds ({meant:.3g} kg)?"
    else:
        return None
    return OddLoad(f"{typed} is {words}", meant)


def odd_entries(history: History) -> tuple[OddEntry, ...]:
    """The entries to be asked about, in the history's order, one question a set; none of a set
    whose entry the coach was asked about and called right."""
    out: dict[int, OddEntry] = {}
    for entry in (*_in_the_future(history), *_odd_loads(history), *_idle_arms(history)):
        if not history.sets[entry.index].entry_is_right:
            out.setdefault(entry.index, entry)
    return tuple(out[i] for i in sorted(out))


def _in_the_future(history: History) -> list[OddEntry]:
    return [
        OddEntry(i, "day", f"a set is dated {_day(done.on)}, after today: when was it done?")
        for i, done in enumerate(history.sets)
        if done.on > history.on
    ]


def _odd_loads(history: History) -> list[OddEntry]:
    """Loads that differ much from those of the sessions before, or, in a first session, from those
    after."""
    out: list[OddEntry] = []
    usual: list[float] = []
    at = 0
    for number, session in enumerate(history.sessions):
        own = range(at, at + len(session))
        at += len(session)
        before = usual[-_SESSIONS:] or _hardest_after(history, number)
        typical = median(before) if before else _of_the_others(session)
        hardest = history.hardest(session)
        kept: list[float] = []
        for i, done in zip(own, session, strict=True):
            odd = _odd(done, typical, hardest) if not done.entry_is_right else None
            if odd is not None:
                out.append(OddEntry(i, "load", odd.question, odd.meant_kg))
            elif done.load_kg:
                kept.append(done.load_kg)
        if kept:
            usual.append(min(kept) if history.assisted else max(kept))
    return out


def _hardest_after(history: History, number: int) -> list[float]:
    """The loads of the sessions after the first, where there are enough of them to say what is
    usual."""
    loads = [history.hardest(s) for s in history.sessions[number + 1 : number + 1 + _SESSIONS]]
    known = [kg for kg in loads if kg]
    return known if len(known) > 1 else []


def _of_the_others(session: tuple[DoneSet, ...]) -> float | None:
    """The usual load within a single session, if most of its sets agree."""
    loads = [done.load_kg for done in session if done.load_kg]
    return median(loads) if len(loads) > 2 else None


def _odd(done: DoneSet, usual: float | None, hardest: float | None) -> OddLoad | None:
    if not usual or not done.load_kg:
        return None
    odd = odd_load(done.load_kg, usual, _on(done.on))
    # A light set before the work is no slip.
    light = odd is not None and odd.meant_kg > done.load_kg and done.load_kg != hardest
    return None if light else odd


def _idle_arms(history: History) -> list[OddEntry]:
    """A full set of one arm and none of the other, if both should work."""
    out = []
    for i, done in enumerate(history.sets):
        full = max(done.left_reps, done.right_reps) >= history.aimed.reps[0]
        if full and done.idle_arm and not done.one_arm:
            arms = f"left {done.left_reps}, right {done.right_reps}{_on(done.on)}"
            asked = f"did the {done.idle_arm} arm not work, or was it not noted?"
            out.append(OddEntry(i, "arm", f"{arms}: {asked}"))
    return out


def _on(day: date) -> str:
    return "" if day == NO_PAST.on else f" on {_day(day)}"


def _day(day: date) -> str:
    return f"{day.day} {day:%b %Y}"
