"""momentum: the share of the lift that is covered by one short burst of speed.

Value: the largest share of the lift's range that falls within 0.2 s, of the side that carries
the rep. Smooth lifts of a second stay near 35 %. Unit: percent.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, summarise, without_reps
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.kinematics.vectors import span_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.reps.drive import DriveSignal


def momentum(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.work_sides:
        reps = ctx.reps_of(side)
        blocked = without_reps(ctx, rule, side, "pct")
        if blocked:
            out.append(blocked)
            continue
        drive = ctx.repset.drives[side]
        values = [burst_share(drive, rep) for rep in reps if _lift_seen(drive, rep)]
        out.append(
            summarise(
                rule,
                side,
                values,
                "pct",
                lambda v: f"{v:.0f} % of the lift in one burst",
                of=len(reps),
                else_why="no lift was seen as a whole",
            )
        )
    return out


def _lift_seen(drive: DriveSignal, rep: Rep) -> bool:
    """Whether no sample of the lift is lost: a way that is drawn through a gap has no speed of its
    own."""
    within = span_of(drive.time_s, rep.lift.start_s, rep.lift.end_s)
    return rep.lift.seen and not bool(drive.lost[within].any())


def burst_share(drive: DriveSignal, rep: Rep) -> RepValue:
    """The largest share of a lift within 0.2 s, in percent."""
    level = drive.smooth(CHECK.burst_cutoff_hz)
    starts = np.arange(
        rep.lift.start_s, max(rep.lift.end_s - CHECK.burst_s, rep.lift.start_s) + 1e-9, 0.01
    )
    covered = np.interp(starts + CHECK.burst_s, drive.time_s, level) - np.interp(
        starts, drive.time_s, level
    )
    size = max(abs(rep.to_deg - rep.from_deg), 1.0)
    i = int(np.argmax(covered))
    u = 100.0 * np.sqrt(2.0) * drive.noise_deg / size
    share = min(100.0 * float(covered[i]) / size, 100.0)
    return RepValue(rep.number, share, float(u), float(starts[i] + 0.5 * CHECK.burst_s))


SPEC: Final = CheckSpec(
    "momentum",
    momentum,
    "pct",
    180,
    "percent of the lift in one burst of 0.2 s",
    shown_by=("too-fast-lift",),
    picture="time",
    praise="You lifted smoothly, without a throw.",
    too_heavy=True,
    from_model=FromModel("usual", not_driven_by=("shoulder_hike",), limit=68.0),
    course="burst",
)
