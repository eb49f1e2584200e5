"""The colours by role: paper and ink, one accent; light, dark, and for a printed page."""

from __future__ import annotations

from typing import Final

LIGHT: Final[dict[str, str]] = {
    "paper": "#F5F1E8",
    "panel": "#FCFAF4",
    "rule": "#DDD5C2",
    "ink": "#22303A",
    "muted": "#5F6B70",
    "faint": "#B4B5AE",
    "guide": "#0B6E75",
    "guide-soft": "#CFE3E0",
    "actual": "#22303A",
    "off": "#C2491D",
    "off-soft": "#F2CDBC",
    "near": "#8F6A0C",
    "near-fill": "#B98A16",
    "unsure": "#7C8285",
    "held": "#CFD2D2",
    "hover": "#EBE5D6",
}
DARK: Final[dict[str, str]] = {
    "paper": "#172026",
    "panel": "#1E2A31",
    "rule": "#34434B",
    "ink": "#E9E4D8",
    "muted": "#A3AEB2",
    "faint": "#55646C",
    "guide": "#5CC4C4",
    "guide-soft": "#1F474B",
    "actual": "#E9E4D8",
    "off": "#F08A5D",
    "off-soft": "#5A3325",
    "near": "#E3B84A",
    "near-fill": "#E3B84A",
    "unsure": "#8D979B",
    "held": "#46545B",
    "hover": "#27353D",
}
# Over a clip's picture, whatever is in it: light lines with dark edges.
PICTURE: Final[dict[str, str]] = {
    **DARK,
    "panel": "#10171B",
    "ink": "#FFFFFF",
    "actual": "#FFFFFF",
    "muted": "#E4E8E8",
    "faint": "#9FAAAE",
    "guide": "#6FDCDC",
    "guide-soft": "#2E7377",
    "near": "#FFD166",
    "off": "#FF8A57",
    "off-soft": "#B4512C",
}
PAGE: Final[dict[str, str]] = {
    "paper": "#FFFFFF",
    "panel": "#FFFFFF",
    "rule": "#D8D2C4",
    "ink": "#22303A",
    "muted": "#5F6B70",
    "faint": "#B4B5AE",
    "guide": "#0B6E75",
    "guide-soft": "#CFE3E0",
    "actual": "#22303A",
    "off": "#C2491D",
    "off-soft": "#F2CDBC",
    "near": "#8F6A0C",
    "near-fill": "#B98A16",
    "unsure": "#7C8285",
    "held": "#CFD2D2",
}
