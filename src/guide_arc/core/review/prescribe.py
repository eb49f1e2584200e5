"""The next set of the same exercise, from how this one went and what was done before it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from datetime import date

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.history import NO_PAST, DoneSet, History, Past, Seen
from guide_arc.core.planning.loaded import places_loaded
from guide_arc.core.planning.pain import asking_first, speaks_of_pain
from guide_arc.core.planning.racks import usual_rack


def next_time(
    standard: Standard,
    tempo: Tempo,
    reps: tuple[Rep, ...],
    findings: Iterable[Finding],
    load_kg: float | None,
    *,
    felt: tuple[str, ...] = (),
    past: Past = NO_PAST,
    entry_is_right: bool = False,
) -> Prescription:
    """The next dose, with its reasons. Load stays None if the set's load is not known.

    entry_is_right : the coach was asked about what was typed of this set, and says it is right
    """
    done = replace(done_set(reps, findings, load_kg, felt, past), entry_is_right=entry_is_right)
    dose = standard.dose
    if not reps:
        why = "no rep was measured; repeat the set and film it again"
        plan = Prescription(
            change="same",
            load_kg=load_kg,
            reps=dose.reps,
            sets=dose.sets[0],
            tempo=tempo,
            rest_s=dose.rest_s,
            reasons=(why,),
            then="a recording in which reps are counted",
            in_reserve=past.scheme.in_reserve,
        )
        return asking_first(plan) if speaks_of_pain(felt) else plan
    history = History(
        standard=standard,
        rack_kg=past.rack_kg or usual_rack(dose.load_step_kg, load_kg),
        sets=(*past.sets, done),
        on=_planned_for(standard, past),
        assisted=standard.pull == "assisted",
        aim=past.aim,
        sore=past.sore,
        tempo=tempo,
        scheme=past.scheme,
        tired=past.tired,
        cleared=past.cleared,
    )
    return next_dose(history)


def _planned_for(standard: Standard, past: Past) -> date:
    """The set's own day; a later one where a place that this exercise loads has become sore since
    and still is."""
    loaded = places_loaded(standard)
    since = [s.since for s in past.sore if s.until is None and s.joint in loaded]
    return max((past.on, *since))


def done_set(
    reps: tuple[Rep, ...],
    findings: Iterable[Finding],
    load_kg: float | None,
    felt: tuple[str, ...],
    past: Past,
) -> DoneSet:
    """A reviewed set as the dose sees it. What the coach allowed in the last reps counts as
    held."""
    full = [r.side for r in reps if r.full]
    seen = tuple(
        Seen(
            f.rule.name, "ok" if f.allowed else f.judged, f.rule.harm, f.title, f.says, f.why or ""
        )
        for f in findings
    )
    return DoneSet(
        past.on,
        load_kg,
        sum(s in ("left", "both") for s in full),
        sum(s in ("right", "both") for s in full),
        len(reps) - len(full),
        seen,
        felt=felt,
        one_arm=True,
    )
