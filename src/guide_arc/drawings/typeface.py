"""The one type family that ships: tabular figures, an open licence (LICENSES/B612-fonts.txt)."""

from __future__ import annotations

from pathlib import Path
from typing import Final

FAMILY: Final = "B612"


def font_files() -> dict[str, bytes]:
    """The family's files by weight: Regular and Bold."""
    folder = Path(__file__).parent / "fonts"
    return {w: (folder / f"B612-{w}.otf").read_bytes() for w in ("Regular", "Bold")}
