"""A person as lines: projecting landmarks onto a sheet, and the limbs that join them."""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.drawings.shapes import Disc, Drawing, Points, Role, Stroke

Looking = Literal["left", "right", "front", "back"]

_ARM: Final = ("shoulder", "elbow", "wrist")
_LEG: Final = ("hip", "knee", "ankle", "foot")
# Seen from more than this off a straight side view, no limb hides the other.
_APART: Final = 0.2


@dataclass(frozen=True)
class Frame:
    """How metres lie on the sheet: seen from one side, a scale, and where the origin is.

    looking : the side of the body that faces the viewer
    turn_deg : a look from between the sides: 0 is the front, 90 the left; None looks straight on
    """

    looking: Looking
    px_per_m: float
    x: float
    y: float
    turn_deg: float | None = None

    def place(self, points: Points) -> Points:
        """(..., 3) metres -> (..., 2) pixels."""
        across, ahead = self._across()
        right = across * points[..., 0] + ahead * points[..., 2]
        return np.stack(
            (self.x + self.px_per_m * right, self.y - self.px_per_m * points[..., 1]), axis=-1
        )

    def _across(self) -> tuple[float, float]:
        """How much of the body's left and of its front runs to the right on the sheet."""
        if self.turn_deg is None:
            return {
                "left": (0.0, -1.0),
                "right": (0.0, 1.0),
                "front": (1.0, 0.0),
                "back": (-1.0, 0.0),
            }[self.looking]
        turn = np.radians(self.turn_deg)
        return float(np.cos(turn)), -float(np.sin(turn))

    def far(self, side: Side) -> bool:
        """Whether a side of the body is turned away from the viewer."""
        return self.looking in SIDES and self.looking != side and not self.oblique

    @property
    def oblique(self) -> bool:
        """Whether both sides of the body are seen apart from each other."""
        return self.turn_deg is not None and abs(self._across()[0]) > _APART


def framed(
    looking: Looking,
    extent: Points,
    width: float,
    height: float,
    pad: float = 34.0,
    below: float = 34.0,
    turn_deg: float | None = None,
) -> Frame:
    """A frame that holds every point of an extent, (N, 3) metres. `below` is the foot's margin."""
    flat = Frame(looking, 1.0, 0.0, 0.0, turn_deg).place(extent)
    seen = flat[np.isfinite(flat).all(axis=-1)]
    if not len(seen):
        return Frame(looking, 100.0, width / 2, height / 2, turn_deg)
    (left, top), (right, bottom) = seen.min(axis=0), seen.max(axis=0)
    scale = min(
        (width - 2 * pad) / max(right - left, 0.3), (height - pad - below) / max(bottom - top, 0.3)
    )
    x = 0.5 * (width - scale * (left + right))
    y = 0.5 * (height + pad - below - scale * (top + bottom))
    return Frame(looking, float(scale), float(x), float(y), turn_deg)


def nearest_look(turn_deg: float) -> Looking:
    """The straight look that a turn is nearest to."""
    looks: tuple[Looking, ...] = ("front", "left", "back", "right")
    return looks[round((turn_deg % 360.0) / 90.0) % 4]


def limbs(
    out: Drawing,
    frame: Frame,
    points: Mapping[str, Points],
    *,
    weight: float = 1.0,
    role: Role = "actual",
    head: bool = True,
) -> None:
    """The whole body: far limbs faint, near limbs strong, joints as rings."""
    order = sorted(SIDES, key=lambda s: not frame.far(s))
    for side in order:
        far = frame.far(side)
        shade: Role = "faint" if far else role
        for chain in (_LEG, _ARM):
            _chain(
                out,
                frame,
                points,
                [f"{side}_{part}" for part in chain],
                shade,
                (3.4 if far else 5.2) * weight,
            )
        if far:
            _trunk(out, frame, points, role, weight)
    if frame.looking in ("front", "back") or frame.oblique:
        _trunk(out, frame, points, role, weight)
    if head:
        _head(out, frame, points, role, weight)
    for side in order:
        if not frame.far(side):
            for part in ("shoulder", "elbow", "wrist", "hip", "knee"):
                at = _at(frame, points, f"{side}_{part}")
                if at is not None:
                    out.add(Disc(at[0], at[1], 4.2 * weight, fill="panel", outline=role, width=1.6))


def _at(frame: Frame, points: Mapping[str, Points], name: str) -> tuple[float, float] | None:
    point = points.get(name)
    if point is None or not np.isfinite(point).all():
        return None
    x, y = frame.place(point)
    return float(x), float(y)


def _chain(
    out: Drawing,
    frame: Frame,
    points: Mapping[str, Points],
    names: list[str],
    role: Role,
    width: float,
) -> None:
    placed = [_at(frame, points, n) for n in names]
    for a, b in itertools.pairwise(placed):
        if a is not None and b is not None:
            out.add(Stroke(np.array([a, b]), role, width))


def _trunk(
    out: Drawing, frame: Frame, points: Mapping[str, Points], role: Role, weight: float
) -> None:
    spots = {
        n: _at(frame, points, n)
        for n in ("left_shoulder", "right_shoulder", "left_hip", "right_hip")
    }
    if any(v is None for v in spots.values()):
        return
    ls, rs, lh, rh = (np.array(spots[n]) for n in spots)
    shoulders, hips = 0.5 * (ls + rs), 0.5 * (lh + rh)
    rib = _at(frame, points, "mid_spine")
    # A back that was marked is drawn as it bends.
    line = [shoulders, hips] if rib is None else [shoulders, np.array(rib), hips]
    out.add(Stroke(np.stack(line), role, 5.2 * weight))
    if frame.looking in ("front", "back") or frame.oblique:
        out.add(
            Stroke(np.stack((ls, rs)), role, 4.2 * weight),
            Stroke(np.stack((lh, rh)), role, 4.2 * weight),
        )


def _head(
    out: Drawing, frame: Frame, points: Mapping[str, Points], role: Role, weight: float
) -> None:
    ears = [points.get(f"{s}_ear") for s in SIDES]
    seen = [e for e in ears if e is not None and np.isfinite(e).all()]
    shoulders = [points.get(f"{s}_shoulder") for s in SIDES]
    known = [s for s in shoulders if s is not None and np.isfinite(s).all()]
    if not seen or not known:
        return
    ear, base = np.mean(seen, axis=0), np.mean(known, axis=0)
    up = (ear - base) / max(float(np.linalg.norm(ear - base)), 1e-6)
    centre = ear + 0.02 * up
    ahead = points.get("nose")
    if ahead is not None and np.isfinite(ahead).all():
        centre = centre + 0.25 * (ahead - ear)
    x, y = frame.place(centre)
    out.add(
        Disc(
            float(x),
            float(y),
            0.095 * frame.px_per_m,
            outline=role,
            width=4.4 * weight,
            height_ratio=1.2,
        )
    )
    neck = np.stack((frame.place(base), frame.place(base + 0.45 * (ear - base))))
    out.add(Stroke(neck, role, 4.2 * weight))
