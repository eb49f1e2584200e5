"""What is remembered of a client in one exercise: at which weights form held and broke, and by
what; pain, and what became of it; how long ago it was.

It explains a dose, and decides nothing: `dose.py` reckons with the history itself.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from datetime import date
from typing import Final

from guide_arc.core.planning.history import DoneSet, History, Shown, form_of

# The shortest pause worth reporting, days.
_PAUSE_DAYS: Final = 14
_TIMES: Final = {1: "once", 2: "twice"}


@dataclass(frozen=True)
class LoadMemory:
    """One weight. held, broke, unseen : sessions in which form held, broke, or was not seen whole
    reps : the most full reps of the weaker arm with form held
    by : what broke, the most frequent first, as it is titled
    last_held, last_broke : the last day on which it held, and broke
    """

    load_kg: float
    held: int = 0
    broke: int = 0
    unseen: int = 0
    reps: int = 0
    by: tuple[str, ...] = ()
    last_held: date | None = None
    last_broke: date | None = None

    @property
    def sessions(self) -> int:
        return self.held + self.broke + self.unseen


@dataclass(frozen=True)
class Memory:
    """loads : by weight, the hardest first; days : since the last session
    hurt_on : the last session with pain; without_pain : sessions since; cleared_on : a clinician's
        word after it
    logged, sets : how many sets were noted and not filmed, of how many
    """

    loads: tuple[LoadMemory, ...]
    days: int
    hurt_on: date | None = None
    without_pain: int = 0
    cleared_on: date | None = None
    logged: int = 0
    sets: int = 0

    @property
    def held(self) -> LoadMemory | None:
        """The hardest weight at which form held at least as often as it broke."""
        return next((m for m in self.loads if m.held and m.held >= m.broke), None)

    @property
    def broke(self) -> LoadMemory | None:
        """Of the weights at which form broke more often than it held, the one done last."""
        broken = [m for m in self.loads if m.broke > m.held]
        return max(broken, key=lambda m: m.last_broke or date.min, default=None)


def memory_of(history: History) -> Memory:
    """What is remembered on the day that is planned for."""
    at: dict[float, list[tuple[tuple[DoneSet, ...], Shown]]] = {}
    for session in history.sessions:
        load = history.hardest(session)
        if load is not None:
            at.setdefault(load, []).append((session, form_of(session)))
    order = sorted(at, reverse=not history.assisted)
    hurt = [s for s in history.sessions if any(done.hurt for done in s)]
    hurt_on = hurt[-1][0].on if hurt else None
    cleared = [c.on for c in history.cleared if hurt_on is not None and c.on >= hurt_on]
    return Memory(
        loads=tuple(_load(load, at[load]) for load in order),
        days=(history.on - history.sessions[-1][0].on).days,
        hurt_on=hurt_on,
        without_pain=sum(hurt_on is not None and s[0].on > hurt_on for s in history.sessions),
        cleared_on=max(cleared, default=None),
        logged=sum(not done.filmed for done in history.sets),
        sets=len(history.sets),
    )


def _load(load: float, sessions: list[tuple[tuple[DoneSet, ...], Shown]]) -> LoadMemory:
    forms = Counter(form for _session, form in sessions)
    held = [session for session, form in sessions if form == "held"]
    broke = [session for session, form in sessions if form == "broke"]
    broken = Counter(
        title
        for session in broke
        for title in {f.title or f.check for d in session for f in d.findings if f.judged == "off"}
    )
    reps = [done.weaker for session in held for done in session if done.load_kg == load]
    return LoadMemory(
        load_kg=load,
        held=forms["held"],
        broke=forms["broke"],
        unseen=forms["unseen"],
        reps=max(reps, default=0),
        by=tuple(title for title, _count in broken.most_common()),
        last_held=held[-1][0].on if held else None,
        last_broke=broke[-1][0].on if broke else None,
    )


def memory_words(memory: Memory) -> tuple[str, ...]:
    """The memory in sentences, what matters most first."""
    out = []
    held, broke = memory.held, memory.broke
    if held is not None and held.last_held is not None:
        times = _TIMES.get(held.held, f"in {held.held} sessions")
        out.append(
            f"Form held at {held.load_kg:g} kg for {held.reps} reps, {times};"
            f" last on {_day(held.last_held)}."
        )
    if broke is not None and broke.last_broke is not None:
        by = " and ".join(title[0].lower() + title[1:] for title in broke.by[:2])
        when = (
            f"in {broke.broke} of {broke.sessions} sessions"
            if broke.sessions > 1
            else f"on {_day(broke.last_broke)}"
        )
        out.append(f"Form broke at {broke.load_kg:g} kg {when}: {by}.")
    if held is None and broke is None and memory.loads:
        out.append("Form was not seen whole in any session yet.")
    if memory.hurt_on is not None:
        count = memory.without_pain
        sessions = f"{count} session{'' if count == 1 else 's'}" if count else "no session"
        since = f"{sessions} {'without it ' if count else ''}since"
        cleared = f"; cleared on {_day(memory.cleared_on)}" if memory.cleared_on else ""
        out.append(f"Pain on {_day(memory.hurt_on)}; {since}{cleared}.")
    if memory.days > _PAUSE_DAYS:
        out.append(f"Not done for {memory.days} days.")
    if memory.logged:
        out.append(f"{memory.logged} of {memory.sets} sets were noted and not filmed.")
    return tuple(out)


def _day(day: date) -> str:
    return f"{day.day} {day:%b}"
