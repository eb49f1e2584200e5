"""Painting solid things into a picture: clothed limbs, discs, lines with soft edges."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.film.photos import Photo, crop
from guide_arc.capture.video.frames import Picture

Spot = NDArray[np.float64]
Colour = tuple[int, int, int]

# Pixels of a limb's cloth, along it and round it.
TEXTURE: Final = (96, 48)
_SUB: Final = 4  # positions are given to cv2 in sixteenths of a pixel
# How strongly the photographed weave shows on it.
_WEAVE: Final = 1.5
# The room's light comes from above, from the left.
_LIGHT: Final = np.array([-0.45, -0.89])
_LIT: Final = 0.16


@dataclass(frozen=True, eq=False)
class Cloth:
    """Cloth or skin of one part of the body, which wrinkles again as the part is bent.

    still, bent : (H, W, 3) how it looks, along H and across W
    """

    still: NDArray[np.float32]
    bent: NDArray[np.float32]

    @classmethod
    def of(cls, colour: Colour, seed: int, folds: float, photo: Photo = "gravel") -> Cloth:
        """A plain colour with the soft relief of a photograph. folds : its depth in grey levels of
        255"""
        high, wide = TEXTURE
        across = np.cos(np.linspace(-1.25, 1.25, wide))[None, :]  # round: darker to its edges
        plain = np.array(colour, dtype=np.float32) * (0.72 + 0.28 * across[..., None])
        weave = _WEAVE * crop(photo, high, wide, seed, 0.6)
        looks = [
            plain + (weave + folds * crop(photo, high, wide, seed + k, 4.0, 1.5))[..., None]
            for k in (1, 2)
        ]
        return cls(*(np.asarray(look, dtype=np.float32) for look in looks))

    def seen(self, bend: float, light: float) -> Picture:
        """(H, W, 3) as it looks now. bend : 0 to 1; light : how much brighter its one edge is, a
        share"""
        mixed = (1.0 - bend) * self.still + bend * self.bent
        lit = mixed * (1.0 + light * np.linspace(-1.0, 1.0, TEXTURE[1], dtype=np.float32))[:, None]
        out: Picture = np.clip(lit, 0, 255).astype(np.uint8)
        return out


def limb(
    canvas: Picture, cloth: Cloth, a: Spot, b: Spot, wide_a: float, wide_b: float, bend: float = 0.0
) -> None:
    """A rounded limb from a to b, `wide` pixels from its line to its edge at each end; its cloth
    turns with it, the light does not. bend : how much the cloth is wrinkled, 0 to 1"""
    along = b - a
    far = float(np.hypot(*along))
    unit = along / far if far > 1e-3 else np.array([0.0, 1.0])
    far = max(far, 1.0)
    normal = np.array([-unit[1], unit[0]])
    a_end, b_end = a - wide_a * unit, b + wide_b * unit
    box = _box(canvas, np.stack((a_end, b_end)), max(wide_a, wide_b) + 2.0)
    if box is None:
        return
    x0, y0, x1, y1 = box
    origin = np.array([x0, y0], dtype=float)
    # Across, the cloth is as wide as the wider end; each end shows the part of it that it covers.
    quad = (
        np.stack(
            (
                a_end + wide_a * normal,
                a_end - wide_a * normal,
                b_end - wide_b * normal,
                b_end + wide_b * normal,
            )
        )
        - origin
    )
    look = cloth.seen(bend, -_LIT * float(normal @ _LIGHT))
    high, wide = look.shape[:2]
    corners = np.array(
        [[0, 0], [wide - 1, 0], [wide - 1, high - 1], [0, high - 1]], dtype=np.float32
    )
    turn = cv2.getPerspectiveTransform(corners, quad.astype(np.float32))
    size = (x1 - x0, y1 - y0)
    laid = cv2.warpPerspective(
        look, turn, size, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
    )
    mask = np.zeros((size[1], size[0]), dtype=np.uint8)
    sides = np.stack(
        (a + wide_a * normal, a - wide_a * normal, b - wide_b * normal, b + wide_b * normal)
    )
    cv2.fillConvexPoly(mask, _fixed(sides - origin), 255, cv2.LINE_AA, _SUB)
    for centre, radius in ((a, wide_a), (b, wide_b)):
        _disc(mask, centre - origin, radius, 255)
    blend(canvas[y0:y1, x0:x1], laid, mask)


def disc(canvas: Picture, centre: Spot, radius: float, colour: Colour) -> None:
    _disc(canvas, centre, radius, colour)


def ring(canvas: Picture, centre: Spot, radius: float, colour: Colour, thick: int) -> None:
    x, y = _fixed(centre)
    cv2.circle(canvas, (int(x), int(y)), _whole(radius), colour, thick, cv2.LINE_AA, _SUB)


def line(canvas: Picture, a: Spot, b: Spot, colour: Colour, thick: int) -> None:
    (ax, ay), (bx, by) = _fixed(a), _fixed(b)
    cv2.line(
        canvas, (int(ax), int(ay)), (int(bx), int(by)), colour, max(1, thick), cv2.LINE_AA, _SUB
    )


def polygon(canvas: Picture, corners: Spot, colour: Colour) -> None:
    cv2.fillPoly(canvas, [_fixed(corners)], colour, cv2.LINE_AA, _SUB)


def blend(under: Picture, over: Picture, mask: Picture) -> None:
    """Lay a picture over another of its size where a mask says so, in place."""
    share = cv2.merge((mask, mask, mask))
    upper = cv2.multiply(over, share, scale=1 / 255.0)
    lower = cv2.multiply(under, 255 - share, scale=1 / 255.0)
    cv2.add(upper, lower, dst=under)


def _disc(canvas: Picture, centre: Spot, radius: float, colour: Any) -> None:
    x, y = _fixed(centre)
    cv2.circle(canvas, (int(x), int(y)), _whole(radius), colour, -1, cv2.LINE_AA, _SUB)


def _whole(length: float) -> int:
    return max(1, round(length * (1 << _SUB)))


def _fixed(points: Spot) -> NDArray[np.int32]:
    return np.round(points * (1 << _SUB)).astype(np.int32)


def _box(canvas: Picture, points: Spot, margin: float) -> tuple[int, int, int, int] | None:
    if not np.isfinite(points).all():
        return None
    high, wide = canvas.shape[:2]
    x0, y0 = np.floor(points.min(axis=0) - margin).astype(int)
    x1, y1 = np.ceil(points.max(axis=0) + margin).astype(int) + 1
    x0, y0, x1, y1 = max(int(x0), 0), max(int(y0), 0), min(int(x1), wide), min(int(y1), high)
    return (x0, y0, x1, y1) if x1 - x0 > 1 and y1 - y0 > 1 else None
