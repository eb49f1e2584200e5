"""What the plan takes of the program."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from guide_arc.app.contract.app import Closes, Coloured, Goes, Refreshes, Says, Undoes
from guide_arc.app.contract.job import Runs

if TYPE_CHECKING:
    from guide_arc.app.services.measuring import Measuring
    from guide_arc.app.services.open_library import OpenLibrary
    from guide_arc.app.services.set_changes import SetChanges
    from guide_arc.app.services.training_log import TrainingLog


class PlanNeeds(Says, Runs, Undoes, Refreshes, Coloured, Closes, Goes, Protocol):
    @property
    def library(self) -> OpenLibrary: ...

    @property
    def training_log(self) -> TrainingLog: ...

    @property
    def set_changes(self) -> SetChanges: ...

    @property
    def measuring(self) -> Measuring: ...
