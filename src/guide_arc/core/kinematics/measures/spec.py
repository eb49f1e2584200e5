"""What a measure is, declared once in its own file as SPEC: all traces, exports, menus and texts
about measures are derived from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final, Literal

from guide_arc.core.kinematics.rules import PICTURE
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import Side

MeasureUnit = Literal["deg", "pct"]
TRUNK: Final = ("left_shoulder", "right_shoulder", "left_hip", "right_hip")
ARM: Final = ("{side}_shoulder", "{side}_elbow", "{side}_wrist")


@dataclass(frozen=True)
class MeasureSpec:
    """formula : of landmarks by name, each (..., 3), and the side if there is one; degrees, or
        metres for what `of_length` makes percent of. NaN if a landmark is missing or the
        definition leaves the measure open
    parts : the landmarks it rests on; "{side}" is replaced by the side
    order : its position in lists, tables and files
    words : what the menu of traces and the tables call it
    joint : what moves, in short, and drives : the same with an article, where it drives an exercise
    per_side : whether it exists for the left and for the right
    of_length : the length of the body that it is percent of: "trunk", counted from the rest before
        the first lift, or "upper-arm"

    What is known of it in a picture:
    from_side, from_front : whether a view from the side, or from the front or back, shows it
    flat_formula : in its place there, where a picture lacks what the formula asks for
    foreshortened : it comes from a limb's length in the picture, which perspective changes
    along_trunk : it is counted along the trunk, and not seen where that points at the camera
    against_vertical : the camera's roll matters
    mirrored : to the subject's left is positive; one arm's own turns it
    out_of_plane_u : what leaves the picture's plane unseen, in its unit
    aside_share : the effect of an off-axis camera on it, as a share of the effect on a limb's angle
    joint_share : how much of where a model puts joints is left in it
    """

    name: str
    unit: MeasureUnit
    order: int
    parts: tuple[str, ...]
    formula: Callable[..., Array]
    words: str
    joint: str = ""
    drives: str = ""
    per_side: bool = True
    of_length: str = ""
    from_side: bool = False
    from_front: bool = False
    flat_formula: Callable[..., Array] | None = None
    foreshortened: bool = False
    along_trunk: bool = False
    against_vertical: bool = False
    mirrored: bool = False
    out_of_plane_u: float = PICTURE.out_of_plane_u
    aside_share: float = 1.0
    joint_share: float = 1.0

    def points(self, side: Side | None) -> tuple[str, ...]:
        return tuple(part.format(side=side) for part in self.parts)
