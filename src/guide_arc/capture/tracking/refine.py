"""The exact placement of a limb, from an approximate one: its strip placed over the picture to
parts of a pixel."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np

from guide_arc.capture.tracking.limbs import Spot
from guide_arc.capture.tracking.looks import Numbers
from guide_arc.capture.tracking.strips import Picture, Strip, between

# Search radius around the coarse place, pixels.
_MARGIN: Final = 5
# Half a step of the coarse turns and a little more, to either side.
_TURNS_DEG: Final = (-4.0, 0.0, 4.0)
# How much a limb's outline counts next to its look: light changes the look as the limb turns, not
# the outline.
_EDGES: Final = 1.0
# A limb's joint is mostly where the limb above it says; plain cloth would let it slide along the
# limb.
_STEPS: Final = np.arange(-_MARGIN, _MARGIN + 1) / _MARGIN
_OFF: Final = (0.08 * _STEPS[:, None] ** 2 + 0.5 * _STEPS[None, :] ** 2).astype(np.float32)


@dataclass(frozen=True, eq=False)
class PixelStrip:
    """A limb's strip in pixels, rows across and columns along it: in numbers that need not be
    turned into others for each comparison."""

    seen: Numbers
    edges: Numbers
    turn_deg: float


@dataclass(frozen=True, eq=False)
class PlacedLimb:
    """a, b : where the limb's ends are; fit : how well its look fits there, -1 to 1"""

    a: Spot
    b: Spot
    fit: float


def sheet_at(
    strip: Strip, picture: Picture, pivot: Spot, turn_deg: float, length: float
) -> PixelStrip:
    seen = _cut(strip, picture, pivot, turn_deg, length, 0)
    return PixelStrip(seen.astype(np.float32), _edges(seen).astype(np.float32), turn_deg)


def placed(
    strip: Strip,
    looks: list[PixelStrip],
    picture: Picture,
    pivot: Spot,
    turn_deg: float,
    length: float,
) -> PlacedLimb:
    """The best fit of some looks about a place, over shifts of a few pixels and turns of a few
    degrees."""
    fits, shifts, raws = [], [], []
    for off in _TURNS_DEG:
        cut = _cut(strip, picture, pivot, turn_deg + off, length, _MARGIN)
        around, edges = cut.astype(np.float32), _edges(cut).astype(np.float32)
        best = (-2.0, 0.0, 0.0, -1.0)
        for look in looks:
            raw = cv2.matchTemplate(around, look.seen, cv2.TM_CCOEFF_NORMED)
            lines = cv2.matchTemplate(edges, look.edges, cv2.TM_CCOEFF_NORMED)
            fit = raw + _EDGES * lines - _OFF
            _low, high, _where, (x, y) = cv2.minMaxLoc(fit)
            if high > best[0]:
                best = (
                    high,
                    x + between(fit[y, :], x) - _MARGIN,
                    y + between(fit[:, x], y) - _MARGIN,
                    float(raw[y, x]),
                )
        fits.append(best[0])
        shifts.append(best[1:3])
        raws.append(best[3])
    k = int(np.argmax(fits))
    share = between(np.array(fits, dtype=np.float32), k)
    turn = turn_deg + _TURNS_DEG[k] + (_TURNS_DEG[1] - _TURNS_DEG[0]) * share
    along, aside = shifts[k]
    unit = _unit(turn)
    base = _unit(turn_deg + _TURNS_DEG[k])
    # Between two turns the strip is turned about its own middle, which has been found.
    middle = (
        pivot
        + length * along * base
        + aside * np.array([-base[1], base[0]])
        + 0.5 * strip.long * length * base
    )
    half = 0.5 * strip.long * length * unit
    return PlacedLimb(middle - half, middle + half, raws[k])


def _cut(
    strip: Strip, picture: Picture, pivot: Spot, turn_deg: float, length: float, more: int
) -> Picture:
    """Rows across and columns along the limb, each a pixel of the limb at its full length."""
    long = round(1.08 * strip.long) + 2 * more
    wide = 2 * round(strip.limb.wide * strip.long) + 1 + 2 * more
    unit = _unit(turn_deg)
    normal = np.array([-unit[1], unit[0]])
    start = pivot - more * length * unit - 0.5 * (wide - 1) * normal
    back = np.array(
        [[length * unit[0], normal[0], start[0]], [length * unit[1], normal[1], start[1]]]
    )
    out: Picture = cv2.warpAffine(
        picture,
        back,
        (long, wide),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return out


def _edges(seen: Picture) -> Picture:
    """How much a strip changes across, in any colour and whichever side is the lighter: its
    outline."""
    across = cv2.convertScaleAbs(cv2.Sobel(cv2.GaussianBlur(seen, (3, 3), 0), cv2.CV_16S, 0, 1))
    one, two, three = cv2.split(across)
    out: Picture = cv2.max(cv2.max(one, two), three)
    return out


def _unit(turn_deg: float) -> Spot:
    return np.array([np.cos(np.radians(turn_deg)), np.sin(np.radians(turn_deg))])
