"""A number with how far it may be from the truth."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True)
class Quantity:
    """A measured value with its standard uncertainty, both in the same unit."""

    value: float
    u: float


@dataclass(frozen=True, eq=False)
class Series:
    """One measure over time.

    value, u : (T,) the measure and its standard uncertainty; NaN where undefined
    """

    name: str
    unit: str
    value: NDArray[np.float64]
    u: NDArray[np.float64]

    def __post_init__(self) -> None:
        if self.value.shape != self.u.shape or self.value.ndim != 1:
            raise ValueError(f"{self.name}: values {self.value.shape} and u {self.u.shape}")
        for field_name in ("value", "u"):
            array = np.array(getattr(self, field_name), dtype=np.float64)
            array.flags.writeable = False
            object.__setattr__(self, field_name, array)

    @property
    def known(self) -> bool:
        """Whether there is a value anywhere."""
        return bool(np.isfinite(self.value).any())
