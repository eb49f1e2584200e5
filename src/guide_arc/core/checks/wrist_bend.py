"""wrist-bend: the wrist leaves the forearm's line.

Value: the largest wrist bend that a rep keeps up for half a second; a hand is short, and a single
sample of it is the tracker's. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    largest,
    per_limb,
    settled,
    whole,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel, Stays
from guide_arc.core.kinematics.vectors import length
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def wrist_bend(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        time_s, value, u = ctx.samples("wrist_bend", side, whole(rep))
        return largest(rep, time_s, settled(time_s, value, CHECK.kept_up_s), u)

    found = per_limb(ctx, rule, "wrist_bend", "deg", value_of, lambda v: f"wrist bends {v:.0f}°")
    return [_if_it_can_be(ctx, rule, f) for f in found]


def _if_it_can_be(ctx: SetContext, rule: CheckRule, f: Finding) -> Finding:
    """The finding, unless the hand is found too roughly for it or at a place where no hand can
    be."""
    if f.side not in SIDES or f.verdict == "cannot-tell":
        return f
    if _hand_u(ctx, f.side) > CHECK.turn_unsure_deg:
        why = "the hand is found too roughly to say how the wrist bends"
    elif f.value is not None and f.value - (f.uncertainty or 0.0) > CHECK.no_wrist_bends_deg:
        why = "no wrist bends so far: wrist or hand were found in a wrong place"
    else:
        return f
    return cannot_tell(rule, f.side, rule.limit, "deg", why)


def _hand_u(ctx: SetContext, side: Side) -> float:
    """Degrees by which the noise of wrist and knuckles turns the hand."""
    body = ctx.body
    long = np.nanmedian(length(body.points[f"{side}_index"] - body.points[f"{side}_wrist"]))
    noise = [np.nanmedian(body.cleaned.worst_sigma(f"{side}_{p}")) for p in ("index", "wrist")]
    return float(np.degrees(np.linalg.norm(noise) / max(float(long), 0.02)))


SPEC: Final = CheckSpec(
    "wrist-bend",
    wrist_bend,
    "deg",
    70,
    "degrees the wrist curls at the turn",
    needs=("wrist_bend",),
    evidence="wrist",
    stays=Stays("wrist straight", ("{side}_wrist", "{side}_index")),
    from_model=FromModel("stays", 40.0, 30.0),
    course="wrist bends",
)
