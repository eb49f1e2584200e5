"""Pictures with a high dynamic range (HLG, HDR10) as a usual screen shows them.

Phones film in these by default. Shown without conversion they look grey and flat. The curves are
those of ITU-R BT.2100, diffuse white is at 203 cd/m² as in BT.2408, and light above it is rolled
off up to the peak.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Any, Final, Literal

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from av.video.frame import VideoFrame

Transfer = Literal["hlg", "pq"]
# The numbers by which H.273 names the two transfer characteristics.
_NAMED: Final[dict[int, Transfer]] = {16: "pq", 18: "hlg"}
# Luminance of diffuse white, and the peak that is still distinguished, in cd/m².
_WHITE: Final = 203.0
_PEAK: Final = 1000.0
# Light up to this share of diffuse white is left as it is; above it the curve bends.
_KNEE: Final = 0.75
# From the primaries of BT.2020 to those of BT.709, in linear light.
_TO_709: Final = np.array(
    [[1.6605, -0.5876, -0.0728], [-0.1246, 1.1329, -0.0083], [-0.0182, -0.1006, 1.1187]]
)
# Steps of the table: twelve bits, as HDR has at most.
_STEPS: Final = 4096


@dataclass(frozen=True, eq=False)
class ToneCurve:
    """linear : (256,) light by stored value, diffuse white 1; coded : (4096,) shown value by light
    up to 1"""

    linear: NDArray[np.float32]
    coded: NDArray[np.uint8]

    def shown(self, stored: NDArray[np.uint8]) -> NDArray[np.uint8]:
        """(H, W, 3) as a usual screen shows it, of a picture as it is stored."""
        import cv2  # noqa: PLC0415

        light = rolled_off(cv2.transform(self.linear[stored], _TO_709))
        out: NDArray[np.uint8] = self.coded[(light * (_STEPS - 1)).astype(np.int32)]
        return out


def tone_curve(frame: VideoFrame) -> ToneCurve | None:
    """How a frame's picture is converted; None for one that needs no conversion."""
    named = _NAMED.get(int(frame.color_trc or 0))
    return None if named is None else _curve(named)


def usual_frame(frame: VideoFrame) -> VideoFrame:
    """A frame as a usual screen shows it; the same one if it needs no conversion."""
    curve = tone_curve(frame)
    if curve is None:
        return frame
    from av.video.frame import VideoFrame as Frame  # noqa: PLC0415

    stored: Any = frame.reformat(format="rgb24").to_ndarray()
    out = Frame.from_ndarray(curve.shown(stored), format="rgb24")
    out.pts, out.time_base = frame.pts, frame.time_base
    return out


@cache
def _curve(transfer: Transfer) -> ToneCurve:
    values = np.linspace(0.0, 1.0, 256)
    nits = _hlg_nits(values) if transfer == "hlg" else _pq_nits(values)
    share = np.linspace(0.0, 1.0, _STEPS)
    # BT.709 as screens show it, a power of 1 / 2.4 of light.
    coded = np.round(255.0 * share ** (1.0 / 2.4)).astype(np.uint8)
    return ToneCurve((nits / _WHITE).astype(np.float32), coded)


def _hlg_nits(value: NDArray[np.float64]) -> NDArray[np.float64]:
    """Luminance of a neutral HLG value on a screen of 1000 cd/m² (BT.2100, table 5)."""
    a, b, c = 0.17883277, 0.28466892, 0.55991073
    scene = np.where(value <= 0.5, value**2 / 3.0, (np.exp((value - c) / a) + b) / 12.0)
    out: NDArray[np.float64] = _PEAK * np.clip(scene, 0.0, 1.0) ** 1.2
    return out


def _pq_nits(value: NDArray[np.float64]) -> NDArray[np.float64]:
    """Luminance of a PQ value (BT.2100, table 4)."""
    m1, m2, c1, c2, c3 = 0.1593017578125, 78.84375, 0.8359375, 18.8515625, 18.6875
    root = value ** (1.0 / m2)
    share = np.maximum(root - c1, 0.0) / (c2 - c3 * root)
    out: NDArray[np.float64] = 10_000.0 * share ** (1.0 / m1)
    return out


def rolled_off(light: NDArray[np.float32]) -> NDArray[np.float32]:
    """Light from 0 to the peak as 0 to 1: as it is up to the knee, then ever more slowly."""
    width = 1.0 - _KNEE
    over = np.maximum(light - _KNEE, 0.0) / width
    top = (_PEAK / _WHITE - _KNEE) / width
    bent = _KNEE + width * over * (1.0 + over / top**2) / (1.0 + over)
    out: NDArray[np.float32] = np.clip(np.where(light > _KNEE, bent, light), 0.0, 1.0)
    return out
