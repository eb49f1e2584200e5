"""How to film an exercise, written in the background."""

from __future__ import annotations

from pathlib import Path

from guide_arc.app.contract.job import Progress
from guide_arc.core.model.standard import Standard
from guide_arc.reports.filming import write_filming


def write(progress: Progress, plan: Standard, target: Path) -> Path:
    """The sheet of one exercise, as PDF or HTML by the target's ending."""
    return write_filming([plan], target, progress)
