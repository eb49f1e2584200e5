"""The next prescription of one exercise, from what was done.

Double progression: more reps within the range first, then the next weight that there is, and only
where form was seen to hold. Pain and sore places stop it; the weaker arm sets the number; a weight
is always one of the rack and never more than a tenth away unasked. Each answer says why, and what
would change it.
"""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date
from functools import partial
from math import ceil
from typing import Final

from guide_arc.core.checks.registry import specs, too_heavy
from guide_arc.core.model.client import Cleared
from guide_arc.core.model.prescription import AskedStep, Change, LighterSets, Prescription
from guide_arc.core.model.standard import HARM_ORDER
from guide_arc.core.planning.history import (
    NO_PAST,
    DoneSet,
    History,
    Seen,
    Shown,
    form_of,
    shown_in,
)
from guide_arc.core.planning.loaded import places_loaded
from guide_arc.core.planning.odd_entries import OddEntry, odd_entries
from guide_arc.core.planning.pain import CLEARED, CLINICIAN
from guide_arc.core.planning.rules import PLAN

# Changes, the most careful first, and those that hold something back.
_CAREFUL: Final = ("stop", "deload", "down", "same", "more-reps", "up")
_HELD_BACK: Final = _CAREFUL[:4]


def next_dose(history: History, odd: Sequence[OddEntry] | None = None) -> Prescription:
    """The next dose. If several rules apply, the most cautious one wins, so a worse set never leads
    to a higher load; the other cautious rules are reported with it. Entries that look like slips
    are asked about and left out; but pain counts in them, and an arm without reps counts as the
    weaker one until that is answered.

    odd : those entries, where they are known already
    """
    odd = odd_entries(history) if odd is None else odd
    if not odd:
        return _reckoned(history)
    questions = tuple(entry.question for entry in odd)
    stop = _pain(history) or _sore(history)
    if stop is not None:
        return replace(stop, questions=questions)
    left_out = {entry.index for entry in odd if entry.slip != "arm"}
    known = tuple(done for i, done in enumerate(history.sets) if i not in left_out)
    if not known:
        first = _dose(
            history,
            "same",
            None,
            history.aimed.reps,
            ("no other figure is known",),
            "an answer to the question",
        )
        return replace(first, questions=questions)
    reckoned = replace(history, sets=known)
    found = _reckoned(reckoned)
    last = len(history.sets) - len(history.sessions[-1])
    if found.change == "up" and max(left_out, default=-1) >= last:
        # What was lifted last is not known: nothing harder before it is.
        why = "the last session has an entry to be confirmed first"
        found = _keep(reckoned, why, "an answer to it")
    return replace(found, questions=questions)


def _how_hard(history: History, dose: Prescription) -> tuple[int, float]:
    """The more careful of two doses comes first; of two alike the lighter one."""
    load = dose.load_kg or 0.0
    return _CAREFUL.index(dose.change), -load if history.assisted else load


def _reckoned(history: History) -> Prescription:
    said = [found for rule in _RULES if (found := rule(history)) is not None]
    said.append(_reps_or_weight(history))
    most = min(said, key=partial(_how_hard, history))
    if most.change in ("deload", "down"):
        # Whatever is said first, nothing heavier is given than another rule allows.
        lighter = [
            d.load_kg for d in said if d.change in ("deload", "down") and d.load_kg is not None
        ]
        if lighter:
            most = replace(most, load_kg=max(lighter) if history.assisted else min(lighter))
    others = [d.reasons[0] for d in said if d.change in _HELD_BACK and d is not most]
    if most.change == "stop":
        return most
    if most.change in _HELD_BACK:
        most = replace(most, reasons=tuple(dict.fromkeys((*most.reasons, *others))))
    return replace(most, back_off=_back_off(history, most))


def _back_off(history: History, plan: Prescription) -> LighterSets | None:
    """The lighter sets after the heaviest one; none in an easier week, and none with help that
    counts the other way round."""
    asked = history.scheme.back_off
    if asked is None or plan.load_kg is None or plan.change == "deload" or history.assisted:
        return None
    lighter = [kg for kg in history.rack_kg if kg <= asked.share * plan.load_kg + 1e-9]
    return LighterSets(lighter[-1], asked.reps, asked.sets) if lighter else None


def _dose(
    history: History,
    change: Change,
    load_kg: float | None,
    reps: tuple[int, int],
    reasons: tuple[str, ...],
    then: str,
    sets: int | None = None,
) -> Prescription:
    plan = history.standard
    return Prescription(
        change=change,
        load_kg=load_kg,
        reps=reps,
        sets=sets or history.aimed.sets,
        tempo=history.tempo or history.scheme.tempo(plan),
        rest_s=history.scheme.dose(plan).rest_s,
        reasons=reasons,
        then=then,
        in_reserve=_in_reserve(history),
    )


def _in_reserve(history: History) -> int:
    """The reps that each set leaves: one more than the scheme says after form was seen to break."""
    recent = history.sessions[-PLAN.reserve_window :]
    breaks = sum(form_of(session) == "broke" for session in recent)
    return history.scheme.in_reserve + (breaks >= PLAN.breaks_for_reserve)


# Harm


def _pain(history: History) -> Prescription | None:
    last = history.sessions[-1]
    if not any(done.hurt for done in last):
        return None
    cleared = _cleared_since(history, last[0].on)
    stop = _dose(
        history,
        "stop",
        None,
        history.aimed.reps,
        (f"pain was reported{_on(last[0].on)}: {CLINICIAN}",),
        (
            f"a light first session that the coach chooses, cleared{_on(cleared.on)}, without pain"
            if cleared
            else CLEARED
        ),
    )
    back = _way_back(history) if cleared else None
    return replace(stop, ask=back) if back is not None else stop


def _way_back(history: History) -> AskedStep | None:
    """Where to begin again after pain that a clinician has cleared: the weight of the rack that is
    no more than six tenths of what was lifted; of assisted kit, that much more help. None without a
    weight, or where the rack has none so light."""
    lifted = history.hardest(history.sessions[-1])
    if not lifted:
        return None
    if history.assisted:
        light = next((kg for kg in history.rack_kg if kg >= lifted / PLAN.after_pain_share), None)
    else:
        most = PLAN.after_pain_share * lifted
        light = next((kg for kg in reversed(history.rack_kg) if kg <= most), None)
    if light is None:
        return None
    share = f"no more than {100 * PLAN.after_pain_share:.0f} % of {lifted:g} kg"
    with_what = f"more help than {lifted:g} kg" if history.assisted else share
    return AskedStep(light, f"cleared by a clinician: begin again with {with_what}")


def _cleared_since(history: History, day: date) -> Cleared | None:
    """The clinician's word, since a day of pain, that covers what this exercise loads."""
    loaded = places_loaded(history.standard)
    return next(
        (
            c
            for c in history.cleared
            if day <= c.on <= history.on
            and (c.place is None or any(c.place.endswith(place) for place in loaded))
        ),
        None,
    )


def _after_pain(history: History) -> Prescription | None:
    """After pain the weight waits for two sessions without it, or for a clinician's word."""
    hurt = [i for i, s in enumerate(history.sessions) if any(done.hurt for done in s)]
    if not hurt:
        return None
    day, since = history.sessions[hurt[-1]][0].on, len(history.sessions) - 1 - hurt[-1]
    if _cleared_since(history, day) or since >= PLAN.sessions_after_pain:
        return None
    return _keep(
        history,
        f"pain was noted{_on(day)}: the weight waits for two sessions without it",
        "another session without pain, or a clinician's word, noted by the coach",
    )


def _on(day: date) -> str:
    """` on 3 Mar 2031`; nothing for a set of which nobody knows the day."""
    return "" if day == NO_PAST.on else f" on {day.day} {day:%b %Y}"


def _sore(history: History) -> Prescription | None:
    loaded = places_loaded(history.standard)
    sore = [s for s in history.sore if s.on(history.on) and s.joint in loaded]
    if not sore:
        return None
    since = (
        f"{sore[0].place} has been sore since {sore[0].since.day} {sore[0].since:%b %Y}, and this"
        " exercise loads it"
    )
    return _dose(
        history,
        "stop",
        None,
        history.aimed.reps,
        (f"{since}: {CLINICIAN}",),
        f"the {sore[0].place} noted as no longer sore",
    )


# Rest


def _layoff(history: History) -> Prescription | None:
    last = max(history.sessions[-1][0].on, history.expected or date.min)
    away = (history.on - last).days
    if away <= PLAN.layoff_days:
        return None
    share, fewer = PLAN.most_jump_share, None
    if away > PLAN.longest_layoff_days:
        share, fewer = PLAN.longest_layoff_share, max(1, ceil(2 * history.aimed.sets / 3))
    elif away > PLAN.longer_layoff_days:
        share = PLAN.longer_layoff_share
    return _easier(
        history,
        "down",
        f"{away // 7} weeks have passed since the last session: win the weight back",
        "one session in which form holds",
        fewer,
        share=share,
    )


def _slide(history: History) -> Prescription | None:
    """Each of the last sessions did less than the one before, at no more weight."""
    recent = history.sessions[-PLAN.sessions_of_a_slide :]
    if len(recent) < PLAN.sessions_of_a_slide or history.expected:
        return None  # a session planned before this one is the easier one
    done = [max(s.weaker for s in session) for session in recent]
    if _went_up(history, recent) or not all(b < a for a, b in itertools.pairwise(done)):
        return None
    if _rested(history, len(recent)):
        return None
    course = ", ".join(str(n) for n in done)
    return _deload(history, f"the last {len(done)} sessions went {course} reps: rest is due")


def _went_up(history: History, sessions: tuple[tuple[DoneSet, ...], ...]) -> bool:
    """Whether any of the sessions was harder in weight than the one before it."""
    loads = [history.hardest(session) for session in sessions]
    return any(
        a is not None and b is not None and (b < a if history.assisted else b > a)
        for a, b in itertools.pairwise(loads)
    )


def _weeks(history: History) -> Prescription | None:
    """So many weeks in a row without an easier one."""
    days = [session[0].on for session in history.sessions]
    if (history.on - days[-1]).days > PLAN.break_days:
        return None  # a rest already
    start = len(days) - 1
    while start > 0 and (days[start] - days[start - 1]).days <= PLAN.break_days:
        if _was_easier(history, start) or _begun_again(history, start):
            break
        start -= 1
    weeks = (days[-1] - days[start]).days // 7
    if weeks < PLAN.weeks_to_deload or history.expected:
        return None
    return _deload(history, f"{weeks} weeks in a row without an easier one")


def _planned_easier(history: History) -> Prescription | None:
    if not history.easier or _lately_begun_again(history):
        return None
    return _deload(history, "the plan has an easier week here")


def _form_slides(history: History) -> Prescription | None:
    """In each of the last sessions more was off than in the one before, at no more weight."""
    recent = history.sessions[-PLAN.sessions_of_a_slide :]
    if len(recent) < PLAN.sessions_of_a_slide or history.expected or _went_up(history, recent):
        return None
    if _rested(history, len(recent)):
        return None
    off = [
        len({f.check for s in session for f in s.findings if f.judged == "off"})
        for session in recent
    ]
    if not all(a < b for a, b in itertools.pairwise(off)):
        return None
    course = ", ".join(str(n) for n in off)
    return _deload(
        history, f"in the last {len(off)} sessions {course} checks were off: rest is due"
    )


def _tired(history: History) -> Prescription | None:
    """Poor sleep or soreness noted on so many of the last days."""
    noted = {d for d in history.tired if 0 <= (history.on - d).days < PLAN.tired_within_days}
    if len(noted) < PLAN.tired_days:
        return None
    return _deload(
        history,
        f"poor sleep or soreness was noted on {len(noted)} of the last {PLAN.tired_within_days}"
        " days",
    )


def _was_easier(history: History, at: int) -> bool:
    """Whether a session did half the sets of the one before it, at less weight or with fewer reps
    in each."""
    before, own = history.sessions[at - 1], history.sessions[at]
    loads = (history.hardest(before), history.hardest(own))
    easier = max(done.weaker for done in own) < min(done.weaker for done in before)
    if None not in loads:
        a, b = (float(kg) for kg in loads if kg is not None)
        easier = easier or (b > a if history.assisted else b < a)
    return easier and len(own) <= ceil(len(before) / 2)


def _rested(history: History, of_last: int) -> bool:
    """Whether one of the last sessions was an easier one, which asks for less than could be done:
    fewer reps in it are no slide."""
    sets = [len(session) for session in history.sessions]
    last = range(len(sets) - of_last + 1, len(sets))
    return any(sets[i] < sets[i - 1] and _was_easier(history, i) for i in last)


def _begun_again(history: History, at: int) -> bool:
    """Whether a session went on from far below the weight of the one before it."""
    a, b = (history.hardest(session) for session in history.sessions[at - 1 : at + 1])
    if a is None or b is None:
        return False
    if history.assisted:
        return a < (1.0 - PLAN.begun_again_share) * b
    return b < (1.0 - PLAN.begun_again_share) * a


def _lately_begun_again(history: History) -> bool:
    sessions = history.sessions
    return any(
        _begun_again(history, i)
        for i in range(1, len(sessions))
        if (history.on - sessions[i][0].on).days <= PLAN.layoff_days
    )


def _deload(history: History, why: str) -> Prescription:
    sets = max(1, ceil(history.aimed.sets / 2))
    return _easier(
        history,
        "deload",
        f"{why}: less weight and half the sets, the full range, for feel",
        "the week after it: back to what was lifted before, a step at a time",
        sets,
    )


# Form and reps


def _form(history: History) -> Prescription | None:
    last = history.sessions[-1]
    off = _worst([f for done in last for f in done.findings if f.judged == "off"])
    if not off:
        return None
    heavy = {f.check for f in off} & too_heavy()
    named = ", ".join(dict.fromkeys(f"“{_title(history, f)}”" for f in off[:3]))
    if len(heavy) >= 2:
        way = "take more help" if history.assisted else "go lighter"
        return _easier(
            history,
            "down",
            f"form gave way under this weight ({named}): {way} and win it back",
            "form that holds in every set",
        )
    return _keep(history, f"form did not hold: {named}", "form that holds in every set")


def _breaks_again(history: History) -> Prescription | None:
    """A weight at which a check broke in two of the last three sessions."""
    lifted = history.hardest(history.sessions[-1])
    if lifted is None:
        return None
    broken: list[dict[str, Shown]] = [
        shown_in(session)
        for session in history.sessions[-PLAN.break_window :]
        if history.hardest(session) == lifted
    ]
    counts = Counter(check for shown in broken for check, how in shown.items() if how == "broke")
    again = [check for check, times in counts.items() if times >= PLAN.breaks_of_last]
    if not again:
        return None
    named = ", ".join(f"“{_named(history, check)}”" for check in sorted(again))
    held = _last_held(history, lifted)
    told = f"; {held:g} kg was held last" if held is not None else ""
    return _easier(
        history,
        "down",
        f"{named} at {lifted:g} kg in {max(counts.values())} of the last "
        f"{len(history.sessions[-PLAN.break_window :])} sessions{told}",
        "form that holds in every set",
        one_step=True,
    )


def _last_held(history: History, lifted: float) -> float | None:
    """The load of the last session, at an easier weight, in which something was seen and nothing
    broke."""
    for session in reversed(history.sessions):
        load, shown = history.hardest(session), shown_in(session)
        if load is None or not shown or "broke" in shown.values():
            continue
        if load > lifted if history.assisted else load < lifted:
            return load
    return None


def _unseen(history: History) -> Prescription | None:
    """A check of harm that no set of the session shows, by recording or by the coach's eye, holds
    the weight back."""
    last = history.sessions[-1]
    shown = shown_in(last)
    if not _earned(history):
        return None
    if not shown:
        harm = tuple(r.name for r in history.standard.checks if r.harm != "effect")
        kept = _keep(
            history,
            "no set of the session was filmed, so form was not seen: the weight waits",
            "a recording of one set, or the coach's own eye",
        )
        return replace(kept, look_for=harm)
    unsure = _worst(
        [
            f
            for done in last
            if done.filmed
            for f in done.findings
            if f.harm != "effect" and f.judged != "ok" and shown[f.check] == "unseen"
        ]
    )
    if not unsure:
        return None
    first = unsure[0]
    title = _title(history, first)
    close = f"is too close to tell{f' ({first.says})' if first.says else ''}"
    told = close if first.verdict == "near" else "could not be judged"
    if first.why and first.verdict != "near":
        told += f" ({first.why})"
    kept = _keep(
        history,
        f"“{title}” {told}: the weight waits",
        f"a recording that shows “{title}”, or the coach's own eye",
    )
    return replace(kept, look_for=tuple(f.check for f in unsure))


def _nearly_there(history: History, low: int) -> bool:
    """Whether every set came near the lower number with form held, for the first time at this
    weight: that is done again before it goes lighter."""
    last = history.sessions[-1]
    near = all(done.weaker >= PLAN.nearly_share * low for done in last)
    if not near or form_of(last) == "broke":
        return False
    if len(history.sessions) < 2:
        return True
    before = history.sessions[-2]
    same = history.hardest(before) == history.hardest(last)
    return not (same and all(done.weaker < low for done in before))


def _reps_or_weight(history: History) -> Prescription:
    low, high = history.aimed.reps
    last = history.sessions[-1]
    weakest = min(done.weaker for done in last)
    if weakest < low:
        if all(done.weaker < low for done in last) and not _nearly_there(history, low):
            return _easier(
                history,
                "down",
                f"{_who(last)} came to {weakest} of at least {low} reps in every set",
                f"{low} reps with both arms in every set",
                one_step=True,
            )
        return _keep(
            history,
            f"{_who(last)} came to {weakest} of at least {low} reps",
            f"{low} reps with both arms in every set",
        )
    if not _earned(history):
        aim = (min(weakest + 1, high), high)
        return _same_weight(
            history,
            "more-reps",
            aim,
            f"{_who(last)} came to {weakest} of {high} reps: add reps before weight",
            f"{high} reps with both arms in every set, form held",
        )
    return _harder(history)


def _who(session: tuple[DoneSet, ...]) -> str:
    """The arm that did fewer reps, where the two differ."""
    uneven = any(done.left_reps != done.right_reps and not done.one_arm for done in session)
    return "the weaker arm" if uneven else "the weakest set"


def _earned(history: History) -> bool:
    """Whether every set at the session's hardest weight came to the upper number with both arms,
    and no set stayed below the lower one."""
    low, high = history.aimed.reps
    last = history.sessions[-1]
    hardest = history.hardest(last)
    top = [done for done in last if done.load_kg == hardest]
    return all(done.weaker >= high for done in top) and all(done.weaker >= low for done in last)


# Weights


def _harder(history: History) -> Prescription:
    low, high = history.aimed.reps
    lifted = history.hardest(history.sessions[-1])
    held = f"form held for {high} reps with both arms"
    scheme = history.scheme
    if scheme.grows == "reps" and high < scheme.most_reps:
        by = min(scheme.step_reps, scheme.most_reps - high)
        return _same_weight(
            history,
            "more-reps",
            (low + by, high + by),
            f"{held}: {by} more before weight, up to {scheme.most_reps}",
            f"{scheme.most_reps} reps, form held",
        )
    more = (high, high + _quarter(high))
    if lifted is None:
        return _dose(
            history,
            "more-reps",
            None,
            more,
            (f"{held}; no weight was noted, so add reps",),
            "a weight that is noted",
        )
    if history.assisted:
        steps = [kg for kg in history.rack_kg if kg < lifted]
        step = steps[-1] if steps else None
    else:
        step = next((kg for kg in history.rack_kg if kg > lifted), None)
    if step is None:
        why = f"{held}; the rack has nothing harder, so add reps"
    elif abs(step - lifted) > PLAN.most_jump_share * lifted + 1e-9:
        jump = (
            f" is a jump of {100 * abs(step - lifted) / lifted:.0f} %" if lifted else " comes next"
        )
        if _ready_for_a_step(history):
            kept = _same_weight(
                history,
                "same",
                more,
                f"{high + _quarter(high)} reps were held twice; the next step to "
                f"{step:g} kg{jump}: the coach decides",
                "the coach's word for the step",
            )
            why = f"{high + _quarter(high)} reps held in every set of two sessions"
            return replace(kept, ask=AskedStep(step, why))
        why = f"{held}; the next step to {step:g} kg{jump}, so add reps first"
    else:
        words = "less help, which is harder" if history.assisted else "the next weight step"
        return _dose(
            history,
            "up",
            step,
            (low, high),
            (f"{held}: {words}", *_broke_there(history, step)),
            "form that gives way at the new weight",
        )
    return _same_weight(
        history, "more-reps", more, why, "a smaller step, or the coach's word for this one"
    )


def _broke_there(history: History, load_kg: float) -> tuple[str, ...]:
    """What to look for at a weight at which form broke the last time that it was lifted."""
    there = [s for s in history.sessions if history.hardest(s) == load_kg]
    if not there or form_of(there[-1]) != "broke":
        return ()
    shown = shown_in(there[-1])
    named = ", ".join(f"“{_named(history, c)}”" for c in sorted(shown) if shown[c] == "broke")
    when = _on(there[-1][0].on)
    return (f"{named} at {load_kg:g} kg{when}: end the set where that begins",)


def _quarter(high: int) -> int:
    return ceil(PLAN.more_reps_share * high)


def _ready_for_a_step(history: History) -> bool:
    """Whether every set of two sessions at this weight came to a quarter more than the upper
    number, with form held. Sessions of the last months count: who was there before an easier week
    need not show it again. What was done before pain does not count."""
    lifted = history.hardest(history.sessions[-1])
    high = history.aimed.reps[1]
    most = high + _quarter(high)
    hurt = [i for i, session in enumerate(history.sessions) if any(s.hurt for s in session)]
    ready = [
        session
        for session in history.sessions[hurt[-1] + 1 if hurt else 0 :]
        if (history.on - session[0].on).days <= PLAN.step_memory_days
        and history.hardest(session) == lifted
        and all(done.weaker >= most for done in session if done.load_kg == lifted)
        and form_of(session) == "held"
    ]
    return len(ready) >= PLAN.sessions_before_a_step


def _easier(
    history: History,
    change: Change,
    why: str,
    then: str,
    sets: int | None = None,
    *,
    one_step: bool = False,
    share: float = PLAN.most_jump_share,
) -> Prescription:
    """A share easier, as near to it as the rack comes, or only one step; the next lighter weight if
    none is so near; the same weight for fewer reps if there is no lighter one."""
    low, high = history.aimed.reps
    lifted = history.hardest(history.sessions[-1])
    if lifted is None:
        return _dose(
            history, change, None, reps=(max(1, low - 2), low), reasons=(why,), then=then, sets=sets
        )
    room = share * lifted + 1e-9
    if history.assisted:
        steps = [kg for kg in history.rack_kg if kg > lifted]
        near = [kg for kg in steps if kg <= lifted + room]
    else:
        steps = [kg for kg in reversed(history.rack_kg) if kg < lifted]
        near = [kg for kg in steps if kg >= lifted - room]
    if steps:
        load_kg = steps[0] if one_step or not near else near[-1]
        return _dose(
            history, change, load_kg, reps=(low, high), reasons=(why,), then=then, sets=sets
        )
    kept = _on_the_rack(history, lifted)
    no_step = "the rack has nothing lighter, so do fewer reps"
    if history.assisted:
        no_step = "the kit gives no more help, so do fewer reps"
    return _dose(
        history,
        change,
        kept,
        reps=(max(1, low - 2), low),
        reasons=(why, no_step),
        then=then,
        sets=sets,
    )


def _keep(history: History, why: str, then: str) -> Prescription:
    return _same_weight(history, "same", history.aimed.reps, why, then)


def _same_weight(
    history: History, change: Change, reps: tuple[int, int], why: str, then: str
) -> Prescription:
    lifted = history.hardest(history.sessions[-1])
    if lifted is None:
        return _dose(history, change, None, reps, (why,), then)
    kept = _on_the_rack(history, lifted)
    reasons = (why,) if kept == lifted else (why, _other_rack(lifted, kept))
    return _dose(history, change, kept, reps, reasons, then)


def _other_rack(lifted: float, kept: float | None) -> str:
    if kept is None:
        return f"nothing on this rack is near the {lifted:g} kg that were lifted"
    return f"this rack has no {lifted:g} kg; {kept:g} kg is the nearest that is no harder"


def _on_the_rack(history: History, lifted: float) -> float | None:
    """The weight of the rack nearest to what was lifted that is no harder; None if there is
    none."""
    if history.assisted:
        return next((kg for kg in history.rack_kg if kg >= lifted), None)
    return next((kg for kg in reversed(history.rack_kg) if kg <= lifted), None)


# Words


def _worst(findings: list[Seen]) -> list[Seen]:
    """Each check once, the worst harm first."""
    ordered = sorted(findings, key=lambda f: (HARM_ORDER.index(f.harm), f.verdict, f.check))
    first: dict[str, Seen] = {}
    for f in ordered:
        first.setdefault(f.check, f)
    return list(first.values())


def _title(history: History, f: Seen) -> str:
    if f.title:
        return f"{f.title[:1].lower()}{f.title[1:]}"
    return _named(history, f.check)


def _named(history: History, check: str) -> str:
    """A check as its fault is called."""
    rule = history.standard.check(check)
    title = rule.title if rule else check.replace("-", " ") if check in specs() else check
    return f"{title[:1].lower()}{title[1:]}"


_RULES: Final[tuple[Callable[[History], Prescription | None], ...]] = (
    _pain,
    _sore,
    _after_pain,
    _layoff,
    _form,
    _breaks_again,
    _slide,
    _form_slides,
    _tired,
    _weeks,
    _planned_easier,
    _unseen,
)
