"""The next set of the same exercise, from how this one went.

More reps first, then the next weight step, and only when the form held (domain: progress).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from guide_arc.core.checks.registry import specs
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Prescription
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.review.rules import REVIEW


def too_heavy() -> frozenset[str]:
    """The checks that say that the weight rules the client rather than the other way round."""
    return frozenset(name for name, spec in specs().items() if spec.too_heavy)


def next_time(
    standard: Standard,
    tempo: Tempo,
    reps: tuple[Rep, ...],
    findings: Iterable[Finding],
    load_kg: float | None,
) -> Prescription:
    """A prescription with its reason. Load stays None where the set's load is not known."""
    off = {f.rule.name for f in findings if f.verdict == "off" and not f.allowed}
    low, high = standard.dose.reps
    step = standard.dose.load_step_kg
    full = max(
        (sum(r.full for r in reps if r.side in (s, "both")) for s in ("left", "right")), default=0
    )
    heavy = len(off & too_heavy())
    plan = Prescription(
        reps=(low, high), sets=standard.dose.sets[0], rest_s=standard.dose.rest_s, tempo=tempo,
        load_kg=load_kg, reason="",
    )  # fmt: skip
    if not reps:
        return replace(plan, reason="no rep was measured; repeat the set and film it again")
    if heavy >= 2 and load_kg:
        lighter = max(step, round(load_kg * (1 - REVIEW.most_jump_share) / step) * step)
        lighter = min(lighter, load_kg)
        return replace(
            plan,
            load_kg=lighter,
            reason="form gave way under this weight; go lighter and win the range back",
        )
    if off:
        return replace(plan, reason="same weight until the form holds for every rep")
    if full >= high and load_kg:
        heavier = load_kg + step
        if heavier > load_kg * (1 + REVIEW.most_jump_share):
            reason = f"form held; the next step of {step:g} kg is a jump of {100 * step / load_kg:.0f} %, so add reps first"
            return replace(plan, reps=(high, high + 3), reason=reason)
        return replace(plan, load_kg=heavier, reason=f"form held for {full} reps: next weight step")
    if full >= high:
        return replace(
            plan, reps=(high, high + 2), reason=f"form held for {full} reps: add reps or weight"
        )
    return replace(
        plan, reps=(min(full + 1, high), high), reason="form held: add reps before weight"
    )
