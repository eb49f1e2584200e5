"""A small picture of one finding for a page: the body at its clearest moment, against the guide."""

from __future__ import annotations

import numpy as np

from guide_arc.core.checks.registry import spec_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.drawings.evidence import evidence
from guide_arc.drawings.figure import Looking, framed, limbs
from guide_arc.drawings.shapes import Area, Drawing, MarkShape, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import draw_evidence


def portrait(measured: ShownSet, finding: Finding, width: float, height: float) -> Drawing:
    """The upper body at the moment the finding shows most; for tempo, asked against done."""
    if spec_of(finding.rule.name).picture in ("time", "range"):
        return _bars(measured, finding, width, height)
    out = Drawing(width, height)
    at_s = finding.at_s if finding.at_s is not None else float(measured.time_s[0])
    index = measured.index(at_s)
    pose = measured.pose(at_s)
    looking = _looking(measured, finding)
    upper = [
        v for k, v in pose.items() if not any(p in k for p in ("knee", "ankle", "heel", "foot"))
    ]
    ears = [pose[f"{s}_ear"] for s in SIDES if np.isfinite(pose[f"{s}_ear"]).all()]
    over = ears or [pose["left_shoulder"], pose["right_shoulder"]]
    head = np.mean(over, axis=0) + np.array([0.0, 0.13, 0.0])
    side: Side = "right" if finding.side == "right" else measured.shown_side
    guide = measured.guide_in_space(side, index)
    if spec_of(finding.rule.name).evidence == "hike":
        upper = [v for k, v in pose.items() if any(p in k for p in ("shoulder", "nose", "ear"))]
        extent = np.stack([*upper, head, np.nanmean(upper, axis=0) - np.array([0.0, 0.3, 0.0])])
    else:
        extent = np.concatenate((np.stack([*upper, head]), guide["wrist"]))
    frame = framed(looking, extent, width, height, pad=14.0, below=14.0)
    limbs(out, frame, pose, weight=0.72)
    wanted = np.stack((pose[f"{side}_shoulder"], guide["elbow"][-1], guide["wrist"][-1]))
    out.add(Stroke(frame.place(wanted), "guide", 2.0, dash=True))
    found = evidence(measured, finding, at_s)
    if found is not None:
        draw_evidence(out, frame, found, finding.judged)
    return out


def _looking(measured: ShownSet, finding: Finding) -> Looking:
    if not measured.can_turn:
        return measured.looking
    if spec_of(finding.rule.name).picture == "side":
        return "left"
    if spec_of(finding.rule.name).picture == "front":
        return "front"
    if measured.looking in SIDES and finding.side in SIDES:
        return "left" if finding.side == "left" else "right"
    return measured.looking


def _bars(measured: ShownSet, finding: Finding, width: float, height: float) -> Drawing:
    """One bar a rep against the limit."""
    out = Drawing(width, height)
    judged = finding.per_rep
    if spec_of(finding.rule.name).picture == "range":
        values = [(r.number, abs(r.to_deg - r.from_deg), "ok") for r in measured.review.reps]
        bound, words = None, "range by rep"
    else:
        values = [(j.rep, j.value, j.verdict) for j in judged]
        bound = finding.limit
        words = {"s": "seconds by rep", "pct": "share by rep"}.get(finding.unit, "by rep")
    most = max([v for _n, v, _j in values] + ([bound] if bound else []), default=1.0) or 1.0
    left, floor, tall = 16.0, height - 26.0, height - 58.0
    step = (width - 2 * left) / max(len(values), 1)
    for i, (number, value, verdict) in enumerate(values):
        x = left + (i + 0.5) * step
        top = floor - tall * max(value, 0.0) / most
        half = 0.5 * min(9.0, 0.6 * step)
        bar = np.array([[x - half, floor], [x - half, top], [x + half, top], [x + half, floor]])
        out.add(Area(bar, "off" if verdict == "off" else "actual"))
        if len(values) <= 12 or number % 2 == 1:
            out.add(Words(x, floor + 13, str(number), "muted", 9, anchor="middle"))
        if verdict != "ok" and len(values) <= 14:
            out.add(MarkShape(x, top - 7, verdict, 7))  # type: ignore[arg-type]
    if bound:
        y = floor - tall * bound / most
        out.add(Stroke(np.array([[left - 4, y], [width - left + 4, y]]), "guide", 1.6, dash=True))
    out.add(Stroke(np.array([[left - 4, floor], [width - left + 4, floor]]), "rule", 1.0))
    out.add(Words(left - 4, 14, words, "muted", 10))
    return out
