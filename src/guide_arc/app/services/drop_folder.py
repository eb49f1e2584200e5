"""The folder to which clients send their sets: complete files are imported, the others ask for
details."""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING, Final

from PyQt6.QtCore import QElapsedTimer, QObject, QTimer

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.services.intake import Intake
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import intake_jobs
    from guide_arc.capture.drop_folder import DropFolder
    from guide_arc.library.intake import said_by_itself

if TYPE_CHECKING:
    from guide_arc.app.services.intake_jobs import Looked
    from guide_arc.app.services.keeper import Keeper

_LOOK_EVERY_MS: Final = 1500
_MOST_REMEMBERED: Final = 5000
_WATCHED, _TAKEN = "drop-folder", "drop-folder-taken"


class DropFolderWatch(QObject):
    """Looks into the folder now and then, off the window's thread.

    asked : the files that came and do not say all by themselves
    """

    def __init__(
        self, app: App, library: OpenLibrary, intake: Intake, keeper: Keeper, parent: QObject
    ) -> None:
        super().__init__(parent)
        self._app, self._library, self._intake, self._keeper = app, library, intake, keeper
        self.asked: list[Path] = []
        self.folder = ""
        self._drop: DropFolder | None = None
        self._looking = False
        self.clock = QElapsedTimer()
        self.timer = QTimer(self)
        self.timer.setInterval(_LOOK_EVERY_MS)
        self.timer.timeout.connect(self.look)
        intake.settled.connect(self._settled)
        intake.busy.connect(self._busy)

    def start(self) -> None:
        """Watch the folder that was watched last time."""
        self._watch(self._library.library.setting(_WATCHED))

    def _watch(self, folder: str) -> None:
        self.stop()
        self.folder = folder
        if not folder:
            return
        taken = frozenset(json.loads(self._library.library.setting(_TAKEN, "[]")))
        self._drop = DropFolder(Path(folder), taken)
        self.clock.start()
        self.timer.start()

    def stop(self) -> None:
        self.timer.stop()
        self._drop = None

    def choose(self, folder: str) -> None:
        """Another folder to watch; none stops watching."""
        self._keeper.keep(
            _WATCHED, "which folder is watched", lambda lib: lib.keep_setting(_WATCHED, folder)
        )
        self._watch(folder)
        self._app.say(f"Watching {folder}." if folder else "No folder is watched now.")

    def look(self) -> None:
        """Import complete files that name client and exercise; keep the rest for the
        coach."""
        drop = self._drop
        if drop is None or self._looking:
            return
        self._looking = True
        work = on_library(
            intake_jobs.look_into_drop_folder,
            drop,
            self.clock.elapsed() / 1000.0,
            self._intake.names(),
        )

        def over() -> None:
            self._looking = False

        self._app.start(
            Job("", work, "drop-folder"), lambda looked: self._looked(drop, looked), over
        )

    def gone(self, error: OSError) -> None:
        """The folder can't be read any more."""
        self.stop()
        self._app.say(
            f"The drop folder can't be read ({error.strerror}). Choose it again in the File menu."
        )

    def _looked(self, drop: DropFolder, looked: Looked | None) -> None:
        if looked is None:
            return
        if looked.answers:
            self._intake.answers_came.emit(looked.answers)
        rows = [(i, d) for i in looked.good if (d := said_by_itself(i, looked.known)) is not None]
        bundles = [item.bundle for item in looked.good if item.bundle]
        sure = {item.name for item, _ in rows} | {item.name for item in looked.good if item.bundle}
        refused = {r.path for r in looked.bad if r.unnamed is None}
        self.asked += [p for p in looked.paths if p.name not in sure and p not in refused]
        self._settled(tuple(r.path for r in looked.bad if r.path is not None))
        self._intake.add(rows, bundles)
        if looked.bad:
            self._app.say(f"Set aside: {looked.bad[0].why}")
            self._intake.quarantined.emit()
        elif self.asked:
            files = "file" if len(self.asked) == 1 else "files"
            self._app.say(
                f"{len(self.asked)} {files} in the drop folder to say more about (Ctrl+Shift+O)."
            )
        self._app.changed()

    def _settled(self, paths: tuple[Path, ...]) -> None:
        """Stored, or quarantined: only now a file counts as taken."""
        drop = self._drop
        if drop is None or not drop.settle(paths):
            return
        kept = json.dumps(sorted(drop.taken)[-_MOST_REMEMBERED:])
        self._keeper.keep(_TAKEN, "what came in", lambda lib: lib.keep_setting(_TAKEN, kept))

    def _busy(self, paths: tuple[Path, ...]) -> None:
        if self._drop is not None:
            self._drop.give_again(paths)

    def ask(self) -> None:
        """Say whose the files are that did not say it themselves."""
        if not self.asked:
            self._app.say("No files in the drop folder need details.")
            return
        paths, self.asked = self.asked, []
        self._intake.take_in(p for p in paths if p.exists())
        self._app.changed()
