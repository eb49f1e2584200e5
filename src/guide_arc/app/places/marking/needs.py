"""What the marking of clips takes of the program."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from guide_arc.app.contract.app import Closes, Coloured, Goes, Refreshes, Remembers, Says, Undoes
from guide_arc.app.contract.job import Runs

if TYPE_CHECKING:
    from guide_arc.app.services.clips import Clips
    from guide_arc.app.services.jobs import JobRunner
    from guide_arc.app.services.keeper import Keeper
    from guide_arc.app.services.measuring import Measuring
    from guide_arc.app.services.open_library import OpenLibrary
    from guide_arc.app.services.set_list import SetList


class MarkingNeeds(Says, Goes, Runs, Undoes, Refreshes, Coloured, Closes, Remembers, Protocol):
    @property
    def library(self) -> OpenLibrary: ...

    @property
    def measuring(self) -> Measuring: ...

    @property
    def sets(self) -> SetList: ...

    @property
    def clips(self) -> Clips: ...

    @property
    def keeper(self) -> Keeper: ...

    @property
    def jobs(self) -> JobRunner: ...
