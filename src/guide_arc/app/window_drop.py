"""What the window does with the drop folder: taking in what says all by itself, keeping the rest to be asked about."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Final

from PyQt6.QtCore import QElapsedTimer, QTimer
from PyQt6.QtWidgets import QFileDialog

from guide_arc.app.window_clips import WindowWithClips

if TYPE_CHECKING:
    from guide_arc.app.places.details import Details
    from guide_arc.app.viewmodels.incoming import Incoming, Refused
    from guide_arc.capture.drop_folder import DropFolder

_LOOK_EVERY_MS: Final = 1500
_MOST_REMEMBERED: Final = 5000


class WindowWithDropFolder(WindowWithClips):
    """The part of the window that watches the folder to which clients send their sets."""

    _drop: DropFolder | None = None
    _drop_timer: QTimer | None = None
    _drop_clock: QElapsedTimer

    @cached_property
    def dropped(self) -> list[Path]:
        """The files that came in the drop folder and do not say all by themselves."""
        return []

    def watch_drop_folder(self) -> None:
        """Look into the drop folder now and then, where one is set."""
        from guide_arc.capture.drop_folder import DropFolder  # noqa: PLC0415

        named = self.library.setting("drop-folder")
        self.stop_watching()
        if not named:
            return
        taken = frozenset(json.loads(self.library.setting("drop-folder-taken", "[]")))
        self._drop = DropFolder(Path(named), taken)
        self._drop_clock = QElapsedTimer()
        self._drop_clock.start()
        self._drop_timer = QTimer(self)
        self._drop_timer.timeout.connect(self.look_into_drop_folder)
        self._drop_timer.start(_LOOK_EVERY_MS)

    def stop_watching(self) -> None:
        if self._drop_timer is not None:
            self._drop_timer.stop()
            self._drop_timer = None
        self._drop = None

    def ask_for_drop_folder(self) -> None:
        """Choose the folder to watch; choosing none stops watching."""
        now = self.library.setting("drop-folder")
        folder = QFileDialog.getExistingDirectory(
            self, "Drop folder: where clients' sets arrive", now
        )
        self.set_drop_folder(folder)

    def set_drop_folder(self, folder: str) -> None:
        self.library.keep_setting("drop-folder", folder)
        self.watch_drop_folder()
        self.say(f"Watching {folder}." if folder else "No folder is watched now.")

    def look_into_drop_folder(self) -> None:
        """Take in what is whole and says by itself whose and what it is; keep the rest for the coach."""
        if self._drop is None or self._adding is not None:
            return
        try:
            whole = self._drop.look(self._drop_clock.elapsed() / 1000.0)
        except OSError as error:
            self.stop_watching()
            self.say(f"The drop folder can't be read ({error.strerror}); choose it anew in File.")
            return
        if whole:
            self._take_dropped(whole)

    def _take_dropped(self, whole: list[Path]) -> None:
        from guide_arc.app.viewmodels.incoming import look_into  # noqa: PLC0415

        clients, catalogue, names = self.library.clients(), self.catalogue(), self.marker_names()

        def work(progress: Callable[[float], None]) -> object:
            return look_into(whole, clients, catalogue, progress, names)

        def done(found: tuple[list[Incoming], list[Refused]]) -> None:
            self._adding = None
            good, bad = found
            rows = [(item, d) for item in good if (d := self._said_by_itself(item)) is not None]
            sure = {item.name for item, _ in rows} | {item.name for item in good if item.bundle}
            self.dropped += [p for p in whole if p.name not in sure]
            self._remember_dropped(whole)
            self.add_all(rows)
            self.add_bundles_if_any([item.bundle for item in good if item.bundle])
            self._tell_dropped(bad)

        self._adding = self.jobs.start(work, done, self._adding_failed)

    def _said_by_itself(self, item: Incoming) -> Details | None:
        """The details of a file whose name and facts leave nothing open; else None."""
        from guide_arc.app.places.details import Details  # noqa: PLC0415
        from guide_arc.standards.schools import preferred_school  # noqa: PLC0415

        if item.bundle or not item.client or item.standard is None or (item.clip and not item.view):
            return None
        plan = self.catalogue().standard(item.standard)
        school = preferred_school(self.own_standards.preferences(), plan, item.client)
        return Details(
            item.client, item.standard, school, None, item.load_kg, item.view, item.capture_hz
        )

    def add_bundles_if_any(self, paths: list[Path]) -> None:
        if paths:
            self.add_bundles(paths)

    def _remember_dropped(self, _whole: list[Path]) -> None:
        if self._drop is not None:
            kept = json.dumps(sorted(self._drop.taken)[-_MOST_REMEMBERED:])
            self.library.keep_setting("drop-folder-taken", kept)

    def _tell_dropped(self, bad: list[Refused]) -> None:
        count = len(self.dropped)
        if bad:
            self.say(bad[0].why)
        elif count:
            self.say(
                f"{count} file{'' if count == 1 else 's'} in the drop folder to say more about (Ctrl+Shift+O)."
            )
        self._refresh()

    def ask_about_dropped(self) -> None:
        """Say whose the files are that did not say it themselves."""
        paths, self.dropped[:] = [p for p in self.dropped if p.exists()], []
        self.take_in(paths)
