"""Drawing over a clip's own picture: where the body's metres lie in it, and lines that show on
anything."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.views import PICTURE_RIGHT
from guide_arc.drawings.figure import Frame
from guide_arc.drawings.shapes import Drawing, Item, Points, Stroke, Words

# A pale casing sets a line off from any picture: how much wider it is, and how dense.
_CASING_PX: Final = 2.6
_CASING: Final = 0.5
# Points below this confidence don't widen what is shown.
_SURE: Final = 0.4
# Free room about the body, as a share of its height.
_ROOM: Final = 0.13


@dataclass(frozen=True)
class Placed:
    """Where a clip's picture is on the sheet: its left top corner, and sheet pixels per picture
    pixel."""

    left: float
    top: float
    zoom: float

    def to_sheet(self, pixels: Points) -> Points:
        """(..., 2) picture pixels -> (..., 2) sheet pixels."""
        return np.array([self.left, self.top]) + self.zoom * pixels

    def to_picture(self, x: float, y: float) -> tuple[float, float]:
        return (x - self.left) / self.zoom, (y - self.top) / self.zoom


def fitted(
    width: float,
    height: float,
    sheet_width: float,
    sheet_height: float,
    zoom: float = 1.0,
    middle: tuple[float, float] | None = None,
    left: float = 0.0,
) -> Placed:
    """A picture of a size on a sheet: whole and in the middle at zoom 1, or `zoom` times as large
    about a picture point. `left`: where the sheet's part for it begins."""
    share = min(sheet_width / width, sheet_height / height) * zoom
    x, y = middle or (width / 2, height / 2)
    return Placed(left + sheet_width / 2 - share * x, sheet_height / 2 - share * y, share)


@dataclass(frozen=True)
class PictureFrame(Frame):
    """How metres lie on a clip's picture: the way back from the body's axes to the pixels that were
    tracked."""

    placed: Placed = Placed(0.0, 0.0, 1.0)
    metres_per_px: float = 1.0
    roll_deg: float = 0.0

    def place(self, points: Points) -> Points:
        """(..., 3) metres -> (..., 2) sheet pixels."""
        axis, sign = PICTURE_RIGHT[self.looking]
        across, up = points[..., axis], points[..., 1]
        turn = np.radians(-self.roll_deg)
        before_across = np.cos(turn) * across - np.sin(turn) * up
        before_up = np.sin(turn) * across + np.cos(turn) * up
        pixels = np.stack((sign * before_across, -before_up), axis=-1) / self.metres_per_px
        return self.placed.to_sheet(pixels)


def picture_frame(body: Body, placed: Placed) -> PictureFrame | None:
    """The frame of a body that was tracked in a picture; None for one in space."""
    cleaned = body.cleaned
    view, scale, roll = cleaned.track.view, cleaned.metres_per_px, cleaned.roll
    if view == "none" or scale is None:
        return None
    straight = roll.deg if roll is not None and roll.put_straight else 0.0
    return PictureFrame(
        view,
        placed.zoom / scale,
        0.0,
        0.0,
        None,
        placed=placed,
        metres_per_px=scale,
        roll_deg=straight,
    )


def person_in(body: Body) -> tuple[float, float, float, float] | None:
    """(x0, y0, x1, y1) the part of the picture that the person takes over the set, with room about
    it; None for a body in space."""
    track = body.cleaned.track
    if track.image_size is None:
        return None
    every = max(1, track.frames // 200)
    sure = track.confidence[::every] >= _SURE
    spots = track.position[::every][sure]
    spots = spots[np.isfinite(spots).all(axis=-1)]
    if not len(spots):
        return None
    low, high = np.percentile(spots, (1.0, 99.0), axis=0)
    room = _ROOM * float((high - low).max())
    (x0, y0), (x1, y1) = low - room, high + room
    wide, tall = track.image_size
    return max(x0, 0.0), max(y0, 0.0), min(x1, float(wide)), min(y1, float(tall))


def cased(drawing: Drawing) -> Drawing:
    """The same drawing to be seen on any picture: lines with a dark edge, words with a dark
    ground."""
    out = Drawing(drawing.width, drawing.height)
    for item in drawing.items:
        out.extend(_cased(item))
    return out


def _cased(item: Item) -> tuple[Item, ...]:
    if isinstance(item, Stroke):
        under = replace(
            item, role="panel", width=item.width + _CASING_PX, opacity=_CASING, dash=False
        )
        return under, item
    if isinstance(item, Words):
        return (replace(item, clear=True),)
    return (item,)
