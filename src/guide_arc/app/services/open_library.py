"""The library that the window works on, opened while the first picture is shown."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, alone
from guide_arc.app.contract.signal import Signal
from guide_arc.lazily import lazily
from guide_arc.library.aside import Aside

with lazily():
    from guide_arc.app.services import copy_jobs, set_jobs
    from guide_arc.library.taking_out import forget_own

if TYPE_CHECKING:
    from guide_arc.app.services.set_jobs import LoadedLibrary
    from guide_arc.library.own_standards import OwnStandards
    from guide_arc.library.store import Library
    from guide_arc.standards.catalogue import Catalogue


class OpenLibrary:
    """opened : it is there, with the core; changed : sets (by id) have changed; gone :
    sets were taken out; standards_changed : the standard of an id; forgot : clients are gone for
    good (their names)"""

    opened: Signal[()] = Signal()
    changed: Signal[frozenset[int]] = Signal()
    gone: Signal[frozenset[int]] = Signal()
    standards_changed: Signal[str] = Signal()
    forgot: Signal[Sequence[str]] = Signal()

    def __init__(self, app: App, where: Path | str, folder: Path) -> None:
        """where : the folder, or the address of a library on a server, whose recordings are in the
        folder"""
        self._app, self.where, self.folder = app, where, folder
        self._loaded: LoadedLibrary | None = None
        self._waiting: list[Callable[[], None]] = []
        self._coach = ""
        self._also: tuple[object, ...] = ()
        # What this window takes out waits here, whichever thread does it.
        self.aside = Aside(folder)

    # Opening

    def open(self, also: tuple[object, ...] = ()) -> None:
        """Open it, and load the core. also : what the window will need, imported `lazily`"""
        self._also = also
        job = Job(
            "",
            alone(set_jobs.load, self.where, self.aside, also),
            "open-library",
            "now",
        )
        self._app.start(job, self._opened)

    def open_again(self) -> None:
        """Once what was in the way is no longer."""
        self.open(self._also)

    def bring_back(self, backup: Path) -> None:
        """Put a copy of the library in its place; everything is read again."""
        job = Job(
            "Bringing the backup back",
            alone(copy_jobs.bring_back, self.folder, backup),
            lane="now",
        )

        before = self.library.ids()

        def done(brought: tuple[str, frozenset[int]]) -> None:
            words, after = brought
            self._app.start_over()
            self.gone.emit(before | after)
            self._app.say(words)

        self._app.start(job, done)

    def _opened(self, loaded: LoadedLibrary) -> None:
        self._loaded, self._coach = loaded, loaded.coach
        self.opened.emit()
        self._app.changed()
        self.forgot.emit(loaded.forgotten)
        if loaded.brought_back:
            names = ", ".join(loaded.brought_back)
            self._app.say(f"An undo failed last time and is finished now: {names} came back.")
        waiting, self._waiting = self._waiting, []
        for then in waiting:
            then()

    @property
    def ready(self) -> bool:
        return self._loaded is not None

    def when_ready(self, then: Callable[[], None]) -> None:
        """Call at once, or as soon as the library and the core are there."""
        if self.ready:
            then()
        else:
            self._waiting.append(then)

    def close(self) -> None:
        if self._loaded is not None:
            names = forget_own(self._loaded.library)
            self.forgot.emit(names)
            self._loaded.library.close()
            self._loaded = None

    # What it holds for the window: small things, read at once

    @property
    def library(self) -> Library:
        assert self._loaded is not None, "asked for before it is open"
        return self._loaded.library

    @property
    def own_standards(self) -> OwnStandards:
        assert self._loaded is not None, "asked for before it is open"
        return self._loaded.own

    def catalogue(self) -> Catalogue:
        return self.own_standards.catalogue()

    @property
    def coach(self) -> str:
        """The name that decisions are stored under."""
        return self._coach

    def name_coach(self, name: str, keep: Callable[..., None]) -> None:
        self._coach = name
        keep("coach", "your name", lambda library: library.keep_setting("coach", name))
