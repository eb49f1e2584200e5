"""Scale and vertical of a picture from the lines that the coach drew on it."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.rules import PICTURE
from guide_arc.core.model.calibration import Calibration
from guide_arc.core.model.marks import Line, Marks
from guide_arc.core.model.quantity import Quantity


def calibration_of(marks: Marks) -> Calibration:
    """What the drawn lines say; plumb and level lines are weighed by how sure each is."""
    scale = marks.line("length")
    px_per_m = None
    if scale is not None and scale.metres > 0:
        long = length_px(scale)
        share = float(np.hypot(np.sqrt(2.0) * PICTURE.click_u_px / long, PICTURE.depth_u))
        px_per_m = Quantity(long / scale.metres, share * long / scale.metres)
    found = [
        _lean(line, own_u)
        for kind, own_u in (("plumb", PICTURE.plumb_u_deg), ("level", PICTURE.level_line_u_deg))
        if (line := marks.line(kind)) is not None  # type: ignore[arg-type]
    ]
    vertical = None
    if found:
        weight = np.array([1.0 / q.u**2 for q in found])
        leans = np.array([q.value for q in found])
        vertical = Quantity(float(leans @ weight / weight.sum()), float(weight.sum() ** -0.5))
    return Calibration(px_per_m, vertical, scale.what if scale and px_per_m else "")


def length_px(line: Line) -> float:
    return float(np.hypot(line.bx - line.ax, line.by - line.ay))


def _lean(line: Line, own_u_deg: float) -> Quantity:
    """How far a line that is truly plumb or level says that the vertical leans to the right."""
    dx, dy = line.bx - line.ax, line.by - line.ay
    if line.kind == "plumb":
        dx, dy = (dx, dy) if dy < 0 else (-dx, -dy)
        lean = np.degrees(np.arctan2(dx, -dy))
    else:
        dx, dy = (dx, dy) if dx > 0 else (-dx, -dy)
        lean = np.degrees(np.arctan2(dy, dx))
    click = np.degrees(np.sqrt(2.0) * PICTURE.click_u_px / max(length_px(line), 1.0))
    return Quantity(float(lean), float(np.hypot(click, own_u_deg)))
