"""What the window itself takes of the program."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Protocol

from PyQt6.QtCore import QSettings

from guide_arc.app.contract.app import App, Coloured
from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import UndoHistory
from guide_arc.app.contract.signal import BoundSignal

if TYPE_CHECKING:
    from guide_arc.app.services.intake import Intake
    from guide_arc.app.services.jobs import JobRunner
    from guide_arc.app.services.keeper import Keeper
    from guide_arc.app.services.open_library import OpenLibrary
    from guide_arc.app.services.searching import Searching


class ShellNeeds(App, Coloured, Protocol):
    """said : a sentence; went : where to; refreshed : header and commands may be other; broke : an
    error of the program's own; could_not_open : the library; completed : all that works on it is
    there"""

    history: UndoHistory
    settings: QSettings

    @property
    def said(self) -> BoundSignal[str]: ...

    @property
    def went(self) -> BoundSignal[Destination]: ...

    @property
    def refreshed(self) -> BoundSignal[()]: ...

    @property
    def broke(self) -> BoundSignal[BaseException]: ...

    @property
    def could_not_open(self) -> BoundSignal[Exception]: ...

    @property
    def completed(self) -> BoundSignal[()]: ...

    @property
    def jobs(self) -> JobRunner: ...

    @property
    def keeper(self) -> Keeper: ...

    @property
    def library(self) -> OpenLibrary: ...

    @property
    def intake(self) -> Intake: ...

    @property
    def searching(self) -> Searching: ...

    def recolour(self, colours: Mapping[str, str]) -> None: ...

    def undo(self) -> None: ...

    def redo(self) -> None: ...

    def close(self) -> None: ...
