"""Numbers in plain coaching words: shared by stage, findings, trust strip and page."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from guide_arc.core.checks.registry import spec_of
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.model.finding import Finding, RepVerdict
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Tempo
from guide_arc.core.model.units import UNIT, amount, spread
from guide_arc.core.reps.driven import driven
from guide_arc.drawings.shown_set import ShownSet

# More runs of reps than these are reported as a count.
_MOST_RUNS = 6


def sentence(words: str) -> str:
    """The same words with a capital at the start."""
    return words[:1].upper() + words[1:]


def sure_words(finding: Finding, judged: RepVerdict | None = None) -> str:
    """How sure, what is allowed, which reps: `± 2°, allowed 10° · reps 6–10`."""
    if finding.value is None or finding.uncertainty is None:
        return finding.why or ""
    uncertainty = judged.uncertainty if judged else finding.uncertainty
    asked = "at least" if spec_of(finding.rule.name).least else "allowed"
    parts = f"± {spread(uncertainty, finding.unit)}, {asked} {amount(finding.limit, finding.unit)}"
    if judged:
        return f"{parts} · rep {judged.rep}"
    if not finding.reps or finding.verdict == "ok":
        return parts
    return f"{parts} · {which_reps(finding)}"


def which_reps(finding: Finding) -> str:
    """`reps 6–10`, or `rep 1, right from rep 2` if it was corrected within the set."""
    right = f", right from rep {finding.right_from}" if finding.right_from else ""
    return rep_list(finding.reps) + right


def rep_name(rep: Rep) -> str:
    """`rep 3`, or `rep 3 left` where the arms are counted by themselves."""
    return f"rep {rep.number}" + ("" if rep.side == "both" else f" {rep.side}")


def rep_list(reps: tuple[int, ...]) -> str:
    """`rep 3`, `reps 3–5`, `reps 1, 4–6`; where that would be long, `14 reps from 1 to 40`."""
    runs: list[list[int]] = []
    for rep in sorted(set(reps)):
        if runs and rep == runs[-1][1] + 1:
            runs[-1][1] = rep
        else:
            runs.append([rep, rep])
    if len(runs) > _MOST_RUNS:
        return f"{len(set(reps))} reps from {runs[0][0]} to {runs[-1][1]}"
    words = ", ".join(f"{a}" if a == b else f"{a}–{b}" for a, b in runs)
    return f"rep{'s' if len(set(reps)) > 1 else ''} {words}"


def phase_words(review: Review, at_s: float) -> str:
    """`rep 8 · lift · 0.62 s`, or where the moment is outside the reps."""
    rep = review.rep_at(at_s)
    if rep is None:
        if not review.reps:
            return f"no rep found · {at_s:.2f} s"
        if at_s < review.reps[0].start_s:
            return f"before the first lift · {at_s:.2f} s"
        return (
            f"after the set · {at_s:.2f} s"
            if at_s > review.reps[-1].end_s
            else f"between reps · {at_s:.2f} s"
        )
    name, start = phase_at(rep, at_s)
    side = f" {rep.side}" if rep.side != "both" else ""
    return f"rep {rep.number}{side} · {name} · {max(at_s - start, 0):.2f} s"


def phase_at(rep: Rep, at_s: float) -> tuple[str, float]:
    """The phase of a rep that is on at a time, and when it started."""
    if at_s < rep.lift.end_s:
        return "lift", rep.lift.start_s
    if at_s < rep.lower.start_s:
        return "top hold", rep.lift.end_s
    if at_s <= rep.lower.end_s:
        return "lower", rep.lower.start_s
    return "bottom hold", rep.lower.end_s


def live_angle(measured: ShownSet, side: Side, at_s: float) -> str:
    """`elbow 128°` at a time, or a dash if it is not seen."""
    review = measured.review
    measure = review.standard.drive
    value = driven(measured.body, review.standard, side).value[measured.index(at_s)]
    spec = spec_of_measure(measure)
    said = f"{value:.0f}{UNIT[spec.unit]}" if np.isfinite(value) else "–"
    return f"{spec.joint} {said}"


def tempo_words(tempo: Tempo) -> str:
    """`3 lower · 1 lift · 1 hold`; what is not asked is left out."""
    parts = [
        (tempo.lower_s, "lower"),
        (tempo.bottom_s, "bottom"),
        (tempo.lift_s, "lift"),
        (tempo.top_s, "hold"),
    ]
    asked = [f"{value:g} s {word}" for value, word in parts if value]
    return " · ".join(asked) or "no tempo asked"


def trust_lines(review: Review) -> tuple[str, str]:
    """The trust strip: what is behind the numbers, and what can't be judged from here."""
    trust = review.trust
    parts = [trust.view, trust.scale]
    if trust.roll_deg is not None:
        off, u = abs(trust.roll_deg.value), 2 * trust.roll_deg.u
        if off < 0.5:
            parts.append(f"camera level, ± {max(u, 1):.0f}°")
        else:
            parts.append(f"camera {off:.0f}° ± {u:.0f}° off level, put straight")
    if trust.noise_mm is not None:
        parts.append(f"noise {trust.noise_mm:.0f} mm")
    parts.append(f"{trust.filled_pct:.0f} % of samples filled in")
    if trust.outliers:
        parts.append(f"{trust.outliers} outliers taken out")
    if np.isfinite(trust.angle_u_deg):
        parts.append(f"angles good to ± {max(2 * trust.angle_u_deg, 1):.0f}°")
    rest = [sentence("; ".join(said)) for said in (trust.doubts, trust.missing) if said]
    if trust.cannot:
        rest.append(f"Can't tell from here: {', '.join(trust.cannot)}")
    return " · ".join(parts), ". ".join(rest)


def next_words(plan: Prescription) -> str:
    """`27.5 kg, 3 × 8–12, 3 s lowering`; nothing to do where pain was reported."""
    if plan.ask_first:
        return "ask first, nothing to lift until then"
    parts = []
    if plan.load_kg:
        parts.append(f"{plan.load_kg:g} kg")
    low, high = plan.reps
    parts.append(f"{plan.sets} × {low if low == high else f'{low}–{high}'}")
    if plan.tempo.lower_s:
        parts.append(f"{plan.tempo.lower_s:g} s lowering")
    return ", ".join(parts)


def set_words(load_kg: float | None, reps: Sequence[Rep]) -> str:
    """`27.5 kg × 10 + 1 short`, `4 left, 4 right reps` where the arms alternate."""
    full = [r for r in reps if r.full]
    count = str(len(full))
    if {r.side for r in full} == {"left", "right"}:
        left = sum(r.side == "left" for r in full)
        count = f"{left} left, {len(full) - left} right"
    short = len(reps) - len(full)
    count += f" + {short} short" if short else ""
    return f"{load_kg:g} kg × {count}" if load_kg else f"{count} reps"
