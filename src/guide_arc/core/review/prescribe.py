"""The next set of the same exercise, from how this one went.

More reps first, then the next weight step, and only when the form was seen to hold. Pain stops all of it.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace

from guide_arc.core.checks.registry import specs
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Prescription
from guide_arc.core.model.standard import HARM_ORDER, Standard, Tempo
from guide_arc.core.review.harm import asking_first, speaks_of_pain
from guide_arc.core.review.rules import REVIEW


def too_heavy() -> frozenset[str]:
    """The checks that say that the weight rules the client rather than the other way round."""
    return frozenset(name for name, spec in specs().items() if spec.too_heavy)


def next_time(  # noqa: PLR0913
    standard: Standard,
    tempo: Tempo,
    reps: tuple[Rep, ...],
    findings: Iterable[Finding],
    load_kg: float | None,
    felt: tuple[str, ...] = (),
) -> Prescription:
    """A prescription with its reason. Load stays None where the set's load is not known."""
    every = list(findings)
    off = {f.rule.name for f in every if f.verdict == "off" and not f.allowed}
    low, high = standard.dose.reps
    plan = Prescription(
        reps=(low, high), sets=standard.dose.sets[0], rest_s=standard.dose.rest_s, tempo=tempo,
        load_kg=load_kg, reason="",
    )  # fmt: skip
    if speaks_of_pain(felt):
        return asking_first(plan)
    if not reps:
        return replace(plan, reason="no rep was measured; repeat the set and film it again")
    if len(off & too_heavy()) >= 2 and load_kg:
        return _easier(plan, standard, load_kg)
    if off:
        return replace(plan, reason="same weight until the form holds for every rep")
    full = _weaker_arm(reps)
    if full < high:
        reps_next = (min(full + 1, high), high)
        return replace(plan, reps=reps_next, reason="form held: add reps before weight")
    unseen = unsure_of_harm(every)
    if unseen is not None:
        return replace(plan, reason=f"same weight: {_unsure_words(unseen)}")
    if load_kg is None:
        more = (high, high + 2)
        return replace(plan, reps=more, reason=f"form held for {full} reps: add reps or weight")
    return _harder(plan, standard, load_kg, full)


def _weaker_arm(reps: tuple[Rep, ...]) -> int:
    """Full reps of the arm that did fewer; an arm that did none has no part in the set."""
    counts = [sum(r.full for r in reps if r.side in (s, "both")) for s in ("left", "right")]
    took_part = [
        c for s, c in zip(("left", "right"), counts, strict=True)
        if any(r.side in (s, "both") for r in reps)
    ]  # fmt: skip
    return min(took_part, default=0)


def unsure_of_harm(findings: Iterable[Finding]) -> Finding | None:
    """What forbids a heavier weight although nothing is off: a check of spine or joint, or of the weight, that
    is near its limit or could not be judged. The worst harm first."""
    heavy = too_heavy()
    unsure = [
        f for f in findings
        if f.verdict in ("near", "cannot-tell") and (f.rule.harm != "effect" or f.rule.name in heavy)
    ]  # fmt: skip
    return min(unsure, key=lambda f: (HARM_ORDER.index(f.rule.harm), f.verdict), default=None)


def _unsure_words(f: Finding) -> str:
    title = f"{f.title[:1].lower()}{f.title[1:]}"
    if f.verdict == "near":
        return f"whether “{title}” holds is too close to tell ({f.says})"
    return f"“{title}” could not be judged: {f.why}"


def _harder(plan: Prescription, standard: Standard, load_kg: float, full: int) -> Prescription:
    """The next weight that there is, unless that is too much at once: then more reps."""
    step, high = standard.dose.load_step_kg, plan.reps[1]
    helped = standard.pull == "assisted"
    if helped:
        less = _on_the_rack(load_kg - step, step, up=True)
        if less >= load_kg:
            return replace(
                plan, reps=(high, high + 3), reason=f"form held for {full} reps: add reps"
            )
        if load_kg - less <= load_kg * REVIEW.most_jump_share:
            why = f"form held for {full} reps: less help, which is harder"
            return replace(plan, load_kg=less, reason=why)
        jump = 100 * (load_kg - less) / load_kg
    else:
        heavier = _on_the_rack(load_kg + step, step, up=False)
        if heavier <= load_kg * (1 + REVIEW.most_jump_share):
            why = f"form held for {full} reps: next weight step"
            return replace(plan, load_kg=heavier, reason=why)
        jump = 100 * (heavier - load_kg) / load_kg
    reason = f"form held; the next step of {step:g} kg is a jump of {jump:.0f} %, so add reps first"
    return replace(plan, reps=(high, high + 3), reason=reason)


def _easier(plan: Prescription, standard: Standard, load_kg: float) -> Prescription:
    """One step easier within what may change at once; where none fits, fewer reps."""
    step, low = standard.dose.load_step_kg, plan.reps[0]
    share = REVIEW.most_jump_share
    why = "form gave way under this weight"
    if standard.pull == "assisted":
        more = _on_the_rack(load_kg * (1 + share), step, up=False)
        if more > load_kg:
            return replace(
                plan, load_kg=more, reason=f"{why}; take more help and win the range back"
            )
    else:
        lighter = _on_the_rack(load_kg * (1 - share), step, up=True)
        if 0 < lighter < load_kg:
            return replace(
                plan, load_kg=lighter, reason=f"{why}; go lighter and win the range back"
            )
    fewer = (max(low - 2, 1), low)
    return replace(
        plan, reps=fewer, reason=f"{why}; no step of {step:g} kg is small enough, so do fewer reps"
    )


def _on_the_rack(load_kg: float, step_kg: float, *, up: bool) -> float:
    """The nearest weight that the steps reach, from below or from above."""
    steps = load_kg / step_kg
    whole = math.ceil(steps - 1e-9) if up else math.floor(steps + 1e-9)
    return round(whole * step_kg, 3)
