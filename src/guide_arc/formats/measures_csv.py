"""Measures over time as CSV: a value and its standard uncertainty per measure."""

from __future__ import annotations

import io
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.quantity import Series


def measures_text(time_s: NDArray[np.float64], series: Sequence[Series]) -> str:
    """`time_s,NAME,NAME_u,…`; undefined values are empty cells."""
    out = io.StringIO()
    names = [cell for s in series for cell in (s.name, f"{s.name}_u")]
    out.write(",".join(["time_s", *names]) + "\n")
    columns = [_cells(column) for s in series for column in (s.value, s.u)]
    times = [repr(t).removesuffix(".0") for t in time_s.tolist()]
    for row in zip(times, *columns, strict=True):
        out.write(",".join(row) + "\n")
    return out.getvalue()


def _cells(values: NDArray[np.float64]) -> list[str]:
    return ["" if v != v else f"{v:.4f}" for v in values.tolist()]
