"""Surfaces taken from photographs: what the room and the clothes of a simulated film are made of.

The photographs (a brick wall, grass, gravel) are in the public domain (CC0); see
`LICENSES/README.md`.
"""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Any, Final, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

Photo = Literal["brick", "grass", "gravel"]
Relief = NDArray[np.float32]

_FOLDER: Final = Path(__file__).with_name("photos")


@cache
def relief(photo: Photo) -> Relief:
    """(512, 512) a photograph's brightness about its mean, of unit variance; its edges meet."""
    packed = np.frombuffer((_FOLDER / f"{photo}.jpg").read_bytes(), dtype=np.uint8)
    grey: NDArray[Any] = np.asarray(cv2.imdecode(packed, cv2.IMREAD_GRAYSCALE), dtype=np.float32)
    if photo == "brick":  # taken with the camera on its side
        grey = np.ascontiguousarray(grey.T)
    grey -= cv2.GaussianBlur(grey, (0, 0), 60.0)
    out: Relief = (grey - grey.mean()) / grey.std()
    return out


def crop(photo: Photo, high: int, wide: int, seed: int, soften: float, zoom: float = 1.0) -> Relief:
    """(high, wide) somewhere in a photograph, of unit variance. soften : standard deviation of the
    blur in pixels of the crop; zoom : pixels of the crop for one of the photograph"""
    rng = np.random.default_rng([seed, 80])
    whole = relief(photo)
    size = len(whole)
    rows = (rng.integers(size) + np.arange(round(high / zoom) + 2)) % (2 * size)
    columns = (rng.integers(size) + np.arange(round(wide / zoom) + 2)) % (2 * size)
    # Turned over at its edges, so that no seam shows.
    rows, columns = (
        np.minimum(rows, 2 * size - 1 - rows),
        np.minimum(columns, 2 * size - 1 - columns),
    )
    part = cv2.resize(np.ascontiguousarray(whole[np.ix_(rows, columns)]), (wide, high))
    if soften:
        part = cv2.GaussianBlur(part, (0, 0), soften)
    out: Relief = ((part - part.mean()) / max(float(part.std()), 1e-6)).astype(np.float32)
    return out
