"""What is wrong with a library, in a sentence."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from guide_arc.core.model.errors import BadInput


class BadLibrary(BadInput):
    """The library can't be opened; the sentence says why and what to do."""


class ReadOnly(BadLibrary):
    """The library can be read and not changed: its disk does not take it, or the person may not.
    Nothing was written."""


class Gone(BadLibrary):
    """A set or a client that is not in the library any more: trying again does not help."""


class LostLibrary(BadLibrary):
    """A library that was there is not, or not whole. What can be done about it is for the person to
    choose.

    lost : its "folder", its "file" gone while recordings are there, or the file is "damaged"
    """

    def __init__(
        self, sentence: str, folder: Path, lost: Literal["folder", "file", "damaged"]
    ) -> None:
        super().__init__(sentence)
        self.folder, self.lost = folder, lost
