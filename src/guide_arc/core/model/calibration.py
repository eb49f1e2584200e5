"""What is known of a picture next to its pixels: its scale and its true vertical."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.quantity import Quantity


@dataclass(frozen=True)
class Calibration:
    """px_per_m : pixels that a metre takes where the person is, with its standard uncertainty
    vertical_deg : how far the true vertical leans to the right in the picture, degrees
    scale_from : what the scale was measured on, in words

    Each is None (or empty) where the picture was not calibrated.
    """

    px_per_m: Quantity | None = None
    vertical_deg: Quantity | None = None
    scale_from: str = ""

    def __post_init__(self) -> None:
        if self.px_per_m is not None and not (self.px_per_m.value > 0 and self.px_per_m.u >= 0):
            raise BadInput(f"a metre takes {self.px_per_m.value:g} pixels; it must be more than 0")
        if self.vertical_deg is not None and abs(self.vertical_deg.value) > 45.0:
            raise BadInput(
                f"the vertical leans by {self.vertical_deg.value:.0f}°; it must be less than 45"
            )


NONE: Final = Calibration()
