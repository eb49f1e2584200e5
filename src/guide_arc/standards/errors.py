"""What is wrong with a standard's file."""

from __future__ import annotations

from guide_arc.core.model.errors import BadInput


class BadStandard(BadInput):
    """A standard's file can't be used: names the file, the key and what would be right."""
