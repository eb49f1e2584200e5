"""What the queue takes of the program."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from guide_arc.app.contract.app import Closes, Coloured, Goes, Refreshes, Remembers, Says
from guide_arc.app.contract.job import Runs
from guide_arc.app.contract.signal import BoundSignal

if TYPE_CHECKING:
    from guide_arc.app.services.answers import Answers
    from guide_arc.app.services.drop_folder import DropFolderWatch
    from guide_arc.app.services.evening import Evening
    from guide_arc.app.services.follow_ups import FollowUps
    from guide_arc.app.services.intake import Intake
    from guide_arc.app.services.jobs import JobRunner
    from guide_arc.app.services.measuring import Measuring
    from guide_arc.app.services.open_library import OpenLibrary
    from guide_arc.app.services.searching import Searching
    from guide_arc.app.services.set_changes import SetChanges
    from guide_arc.app.services.set_list import SetList


class QueueNeeds(Says, Goes, Runs, Refreshes, Coloured, Closes, Remembers, Protocol):
    @property
    def library(self) -> OpenLibrary: ...

    @property
    def set_changes(self) -> SetChanges: ...

    @property
    def intake(self) -> Intake: ...

    @property
    def answers(self) -> Answers: ...

    @property
    def follow_ups(self) -> FollowUps: ...

    @property
    def evening(self) -> Evening: ...

    @property
    def drop_folder(self) -> DropFolderWatch: ...

    @property
    def measuring(self) -> Measuring: ...

    @property
    def sets(self) -> SetList: ...

    @property
    def searching(self) -> Searching: ...

    @property
    def jobs(self) -> JobRunner: ...

    @property
    def completed(self) -> BoundSignal[()]:
        """The library is open, and all that works on it is there."""
