"""What the review takes of the program."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from guide_arc.app.contract.app import Closes, Coloured, Goes, Refreshes, Remembers, Says, Undoes
from guide_arc.app.contract.job import Runs

if TYPE_CHECKING:
    from guide_arc.app.services.clips import Clips
    from guide_arc.app.services.evening import Evening
    from guide_arc.app.services.follow_ups import FollowUps
    from guide_arc.app.services.keeper import Keeper
    from guide_arc.app.services.measuring import Measuring
    from guide_arc.app.services.open_library import OpenLibrary
    from guide_arc.app.services.set_changes import SetChanges
    from guide_arc.app.services.set_list import SetList


class ReviewNeeds(Says, Goes, Runs, Undoes, Refreshes, Coloured, Closes, Remembers, Protocol):
    @property
    def library(self) -> OpenLibrary: ...

    @property
    def set_changes(self) -> SetChanges: ...

    @property
    def measuring(self) -> Measuring: ...

    @property
    def sets(self) -> SetList: ...

    @property
    def evening(self) -> Evening: ...

    @property
    def clips(self) -> Clips: ...

    @property
    def keeper(self) -> Keeper: ...

    @property
    def follow_ups(self) -> FollowUps: ...
