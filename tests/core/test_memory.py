"""What is remembered of a client in an exercise, from histories written by hand."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from guide_arc.core.model.client import Cleared
from guide_arc.core.model.finding import Verdict
from guide_arc.core.planning.history import DoneSet, History, Seen
from guide_arc.core.planning.memory import memory_of, memory_words
from guide_arc.standards.loader import standard

PLAN = standard("standing-barbell-curl")
FIRST = date(2031, 3, 3)
HARM = tuple(c.name for c in PLAN.checks if c.harm in ("spine", "joint"))


def done(
    day: int, kg: float, reps: int, broke: tuple[str, ...] = (), unseen: bool = False
) -> DoneSet:
    """A set with every check of harm seen to hold, but for those that broke; or none seen."""
    usual: Verdict = "cannot-tell" if unseen else "ok"
    findings = tuple(
        Seen(c, "off" if c in broke else usual, "joint", c.replace("-", " "))
        for c in sorted({*HARM, *broke})
    )
    return DoneSet(FIRST + timedelta(day), kg, reps, reps, findings=findings, one_arm=True)


def words(*sets: DoneSet, after: int = 2, **more) -> tuple[str, ...]:
    history = History(
        standard=PLAN,
        rack_kg=(20.0, 22.5, 25.0, 27.5, 30.0, 32.5),
        sets=sets,
        on=sets[-1].on + timedelta(after),
        **more,
    )
    return memory_words(memory_of(history))


def test_the_hardest_weight_held_and_the_one_that_breaks_are_told_with_what_broke():
    swing = ("torso-swing",)
    told = words(
        done(0, 27.5, 12),
        done(2, 27.5, 11),
        done(4, 30.0, 9, swing),
        done(6, 30.0, 9, swing),
        done(8, 30.0, 8, (*swing, "shoulder-hike")),
    )
    assert told == (
        "Form held at 27.5 kg for 12 reps, twice; last on 5 Mar.",
        "Form broke at 30 kg in 3 of 3 sessions: torso swing and shoulder hike.",
    )


def test_a_weight_that_broke_once_and_then_held_is_held():
    assert words(done(0, 30.0, 8, ("torso-swing",)), done(2, 30.0, 9), done(4, 30.0, 10)) == (
        "Form held at 30 kg for 10 reps, twice; last on 7 Mar.",
    )


def test_two_sets_of_a_day_are_one_session_and_the_broken_one_counts():
    same_day = (done(0, 30.0, 10), done(0, 30.0, 9, ("torso-swing",)))
    assert words(*same_day) == ("Form broke at 30 kg on 3 Mar: torso swing.",)


def test_what_was_not_seen_is_not_called_held():
    assert words(done(0, 30.0, 10, unseen=True)) == ("Form was not seen whole in any session yet.",)


def test_pain_pause_and_sets_that_nobody_filmed_are_told():
    hurt = replace(done(0, 20.0, 8), pain=True)
    logged = DoneSet(FIRST + timedelta(3), 20.0, 8, 8, filmed=False, one_arm=True)
    told = words(hurt, logged, after=30, cleared=(Cleared(None, FIRST + timedelta(2)),))
    assert told == (
        "Form held at 20 kg for 8 reps, once; last on 3 Mar.",
        "Pain on 3 Mar; 1 session without it since; cleared on 5 Mar.",
        "Not done for 30 days.",
        "1 of 2 sets were noted and not filmed.",
    )


def test_of_assisted_kit_the_least_help_is_the_hardest():
    told = words(done(0, 30.0, 10), done(2, 25.0, 8), assisted=True)
    assert told[0] == "Form held at 25 kg for 8 reps, once; last on 5 Mar."


def test_of_two_weights_that_broke_the_one_done_last_is_told():
    told = words(done(0, 20.0, 8, ("torso-swing",)), done(9, 22.5, 8, ("shoulder-hike",)))
    assert told == ("Form broke at 22.5 kg on 12 Mar: shoulder hike.",)
