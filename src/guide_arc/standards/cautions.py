"""The usual cautions, by the ids that standards name them by."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources


@cache
def caution_words() -> dict[str, str]:
    """Each caution as a sentence for the client."""
    file = resources.files("guide_arc.standards").joinpath("data", "cautions.toml")
    return tomllib.loads(file.read_text(encoding="utf-8"))
