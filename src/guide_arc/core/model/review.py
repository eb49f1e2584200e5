"""The review of a set: an immutable value, always recomputable."""

from __future__ import annotations

from dataclasses import dataclass

from guide_arc.core.model.figures import BreakDown, Cause
from guide_arc.core.model.finding import Finding, Verdict
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.model.settings import Settings
from guide_arc.core.model.standard import Standard, Tempo


@dataclass(frozen=True)
class Trust:
    """What the numbers rest on.

    noise_mm : raw landmark noise, root mean square in space; None without a scale
    filled_pct : share of the needed samples that were missing or thrown out
    angle_u_deg : typical standard uncertainty of the driving measure
    scale : where lengths come from, in words
    cannot : what this recording can't show, in words
    doubts : where the count of reps or a time is doubtful, in words
    missing : what nobody calibrated on the picture, in words with what it costs
    roll_deg : how far off level the camera stood, where that was seen and taken out
    """

    view: str
    scale: str
    noise_mm: float | None
    filled_pct: float
    outliers: int
    angle_u_deg: float
    cannot: tuple[str, ...]
    doubts: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()
    roll_deg: Quantity | None = None


@dataclass(frozen=True, eq=False)
class Review:
    """Everything computed from (track, standard, school, tempo, settings).

    loose : the keys of the reps in which anything is off; the others are strict
    """

    standard: Standard
    tempo: Tempo
    settings: Settings
    frames: int
    duration_s: float
    side: WorkSide
    reps: tuple[Rep, ...]
    findings: tuple[Finding, ...]
    trust: Trust
    under_tension_s: float
    lower_first_last_s: tuple[float, float] | None
    range_by_rep: tuple[Quantity, ...]
    loose: tuple[tuple[WorkSide, int], ...]
    broke_down: BreakDown | None
    causes: tuple[Cause, ...]
    next_time: Prescription

    @property
    def full_reps(self) -> int:
        return sum(rep.full for rep in self.reps)

    def rep_at(self, at_s: float) -> Rep | None:
        """The rep that is under way at a time; a bottom hold counts where no other arm works."""
        for rep in self.reps:
            if rep.start_s <= at_s <= rep.end_s:
                return rep
        for rep in self.reps:
            if rep.bottom_hold and rep.end_s <= at_s <= rep.bottom_hold.end_s:
                return rep
        return None

    def with_verdict(self, *verdicts: Verdict) -> tuple[Finding, ...]:
        return tuple(f for f in self.findings if f.verdict in verdicts)
