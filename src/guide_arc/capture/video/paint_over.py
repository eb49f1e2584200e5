"""Laying a drawing over a picture, for clips and stills that leave the program."""

from __future__ import annotations

import io
from collections.abc import Mapping
from functools import lru_cache
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from guide_arc.capture.video.frames import Picture
from guide_arc.drawings.shapes import Area, Disc, Drawing, MarkShape, Points, Stroke, Words
from guide_arc.drawings.typeface import font_files

# Binary places of a pixel that OpenCV draws at.
_SUB: Final = 4
# Pixels drawn and left out.
_DASH: Final = (7.0, 5.0)
Colour = tuple[int, int, int]


def paint_over(
    picture: Picture, drawing: Drawing, colours: Mapping[str, str], scale: float
) -> None:
    """Lay a drawing over a picture, in place. scale : picture pixels in one of the drawing's"""
    for item in drawing.items:
        if isinstance(item, Stroke):
            _stroke(picture, item, _rgb(colours[item.role]), scale)
        elif isinstance(item, Area):
            _area(picture, item, colours, scale)
        elif isinstance(item, Disc):
            _disc(picture, item, colours, scale)
        elif isinstance(item, Words):
            _words(picture, item, colours, scale)
        elif isinstance(item, MarkShape):
            _mark(picture, item, colours, scale)


def cover(picture: Picture, x: float, y: float, radius: float) -> None:
    """Make a round part of a picture, a face, unrecognisable, in place."""
    high, wide = picture.shape[:2]
    x0, x1 = max(int(x - radius), 0), min(int(x + radius) + 1, wide)
    y0, y1 = max(int(y - radius), 0), min(int(y + radius) + 1, high)
    if x1 - x0 < 2 or y1 - y0 < 2:
        return
    part = picture[y0:y1, x0:x1]
    # Few large squares, then smeared: what was there can't be drawn out of them again.
    small = cv2.resize(part, (4, 4), interpolation=cv2.INTER_AREA)
    smeared = cv2.resize(small, (x1 - x0, y1 - y0), interpolation=cv2.INTER_LINEAR)
    mask = np.zeros(part.shape[:2], dtype=np.uint8)
    cv2.circle(mask, (int(x - x0), int(y - y0)), int(radius), 255, -1)
    part[mask > 0] = smeared[mask > 0]


def png_bytes(picture: Picture) -> bytes:
    """A picture as PNG."""
    out = io.BytesIO()
    Image.fromarray(picture).save(out, format="PNG")
    return out.getvalue()


def _rgb(colour: str) -> Colour:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _fixed(points: Points, scale: float) -> NDArray[np.int32]:
    seen = points[np.isfinite(points).all(axis=-1)]
    fixed: NDArray[np.int32] = np.round(seen * scale * (1 << _SUB)).astype(np.int32)
    return fixed


def _stroke(picture: Picture, item: Stroke, colour: Colour, scale: float) -> None:
    thick = max(1, round(item.width * scale))
    parts = _dashes(item.points, scale) if item.dash else [item.points]
    about = _around(picture, item.points * scale, thick + 2)
    if about is None:
        return
    under = about.copy() if item.opacity < 1.0 else None
    for part in parts:
        fixed = _fixed(part, scale)
        if len(fixed) > 1:
            cv2.polylines(picture, [fixed], False, colour, thick, cv2.LINE_AA, _SUB)
    if under is not None:
        cv2.addWeighted(about, item.opacity, under, 1 - item.opacity, 0, dst=about)


def _dashes(points: Points, scale: float) -> list[Points]:
    """A line as its dashes."""
    seen = points[np.isfinite(points).all(axis=-1)]
    if len(seen) < 2:
        return []
    along = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(seen, axis=0).T))))
    out = []
    at = 0.0
    while at < along[-1]:
        span = np.linspace(at, min(at + _DASH[0], along[-1]), 4)
        out.append(np.stack([np.interp(span, along, seen[:, k]) for k in range(2)], axis=-1))
        at += sum(_DASH)
    return out


def _area(picture: Picture, item: Area, colours: Mapping[str, str], scale: float) -> None:
    fixed = _fixed(item.points, scale)
    if len(fixed) < 3:
        return
    about = _around(picture, item.points * scale, 2)
    if about is None:
        return
    under = about.copy()
    cv2.fillPoly(picture, [fixed], _rgb(colours[item.role]), cv2.LINE_AA, _SUB)
    cv2.addWeighted(about, item.opacity, under, 1 - item.opacity, 0, dst=about)
    if item.outline:
        cv2.polylines(
            picture,
            [fixed],
            True,
            _rgb(colours[item.outline]),
            max(1, round(scale)),
            cv2.LINE_AA,
            _SUB,
        )


def _disc(picture: Picture, item: Disc, colours: Mapping[str, str], scale: float) -> None:
    middle = np.array([[item.x, item.y]])
    fixed = _fixed(middle, scale)
    if not len(fixed):
        return
    axes = (
        max(1, round(item.radius * scale * (1 << _SUB))),
        max(1, round(item.radius * item.height_ratio * scale * (1 << _SUB))),
    )
    for role, thick in ((item.fill, -1), (item.outline, max(1, round(item.width * scale)))):
        if role:
            spot = (int(fixed[0][0]), int(fixed[0][1]))
            cv2.ellipse(
                picture, spot, axes, 0, 0, 360, _rgb(colours[role]), thick, cv2.LINE_AA, _SUB
            )


def _mark(picture: Picture, item: MarkShape, colours: Mapping[str, str], scale: float) -> None:
    r = item.size / 2
    if item.verdict == "off":
        corners = np.array(
            [[item.x, item.y - r], [item.x + r, item.y + r], [item.x - r, item.y + r]]
        )
        cv2.fillPoly(picture, [_fixed(corners, scale)], _rgb(colours["off"]), cv2.LINE_AA, _SUB)
    else:
        role = {"near": "near", "ok": "ink"}.get(item.verdict, "unsure")
        _disc(picture, Disc(item.x, item.y, 0.8 * r, fill=role), colours, scale)  # type: ignore[arg-type]


@lru_cache(maxsize=64)
def _font(size: int, bold: bool) -> ImageFont.FreeTypeFont:
    data = font_files()["Bold" if bold else "Regular"]
    return ImageFont.truetype(io.BytesIO(data), size)


@lru_cache(maxsize=512)
def _letters(text: str, size: int, bold: bool) -> tuple[NDArray[np.uint8], int]:
    """The coverage of a line of text, and the distance of its baseline from its top."""
    font = _font(size, bold)
    rise, fall = font.getmetrics()
    wide = max(1, round(font.getlength(text)) + 2)
    sheet = Image.new("L", (wide, rise + fall), 0)
    ImageDraw.Draw(sheet).text((0, 0), text, fill=255, font=font)
    return np.asarray(sheet), rise


def _words(picture: Picture, item: Words, colours: Mapping[str, str], scale: float) -> None:
    letters, rise = _letters(item.text, max(6, round(item.size * scale)), item.bold)
    high, wide = letters.shape
    left = {"start": 0.0, "middle": wide / 2, "end": float(wide)}[item.anchor]
    x, y = round(item.x * scale - left), round(item.y * scale) - rise
    if item.clear:
        pad = round(3 * scale)
        part = _part(picture, x - pad, y, wide + 2 * pad, high)
        if part is not None:
            ground = np.empty_like(part)
            ground[:] = _rgb(colours["panel"])
            cv2.addWeighted(ground, 0.8, part, 0.2, 0, dst=part)
    part = _part(picture, x, y, wide, high)
    if part is None:
        return
    seen = (
        letters[max(0, -y) :, max(0, -x) :][: part.shape[0], : part.shape[1], None].astype(
            np.float32
        )
        / 255
    )
    ink = np.array(_rgb(colours[item.role]), dtype=np.float32)
    part[:] = np.round(seen * ink + (1 - seen) * part).astype(np.uint8)


def _around(picture: Picture, points: Points, room: float) -> Picture | None:
    """The part of a picture that holds some points, so that no more than that is mixed."""
    seen = points[np.isfinite(points).all(axis=-1)]
    if not len(seen):
        return None
    (x0, y0), (x1, y1) = np.floor(seen.min(axis=0) - room), np.ceil(seen.max(axis=0) + room)
    return _part(picture, int(x0), int(y0), int(x1 - x0) + 1, int(y1 - y0) + 1)


def _part(picture: Picture, x: int, y: int, wide: int, high: int) -> Picture | None:
    """The part of a picture under a box, clipped to the picture."""
    rows, columns = picture.shape[:2]
    x0, y0, x1, y1 = max(x, 0), max(y, 0), min(x + wide, columns), min(y + high, rows)
    return picture[y0:y1, x0:x1] if x1 > x0 and y1 > y0 else None
