"""What is wrong with a library, in a sentence."""

from __future__ import annotations

from guide_arc.core.model.errors import BadInput


class BadLibrary(BadInput):
    """The library can't be opened; the sentence says why and what to do."""
