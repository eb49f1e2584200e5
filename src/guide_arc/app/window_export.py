"""What the window lets out: clips, pictures, tables, tracks and whole sets, in open forms."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QProgressBar, QPushButton, QWidget

from guide_arc.app.jobs import Job
from guide_arc.app.window_standards import WindowWithStandards
from guide_arc.core.model.errors import BadInput
from guide_arc.library.store import Library

if TYPE_CHECKING:
    from guide_arc.app.places.export import ExportDialog, ExportKind
    from guide_arc.core.model.finding import Finding
    from guide_arc.drawings.figure import Looking
    from guide_arc.drawings.measured import Measured
    from guide_arc.library.records import SetNotes


class WindowWithExport(WindowWithStandards):
    """The part of the window that writes files for others."""

    work: QWidget
    work_bar: QProgressBar
    work_stop: QPushButton
    _working: Job | None = None

    def set_file_name(self, ending: str) -> str:
        raise AssertionError("the window names it")

    def ask_for_export(self) -> None:
        """Which form, then where."""
        from guide_arc.app.places.export import ExportDialog  # noqa: PLC0415

        measured, record = self.review.measured, self.review.record
        if measured is None or record is None:
            return
        dialog = ExportDialog(self, record.clip_hash is not None, measured.can_turn)
        dialog.accepted.connect(lambda: self._ask_where(dialog))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _ask_where(self, dialog: ExportDialog) -> None:
        kind = dialog.chosen()
        slow, face = dialog.slow.isChecked(), dialog.face.isChecked()
        folder = Path(str(self.settings.value("exports", str(Path.home()))))
        start = folder / self.set_file_name(kind.ending)
        name, chosen = QFileDialog.getSaveFileName(self, kind.words, str(start), kind.filter)
        if name:
            target = Path(name)
            if not target.suffix:
                target = target.with_suffix("." + chosen.rpartition("*.")[2].rstrip(")"))
            self.settings.setValue("exports", str(target.parent))
            self.export(kind, target, slow=slow, face=face)

    def export(
        self, kind: ExportKind, target: Path, *, slow: bool = True, face: bool = False
    ) -> None:
        """Write the open set in a form, off the window's thread."""
        measured, record = self.review.measured, self.review.record
        if measured is None or record is None or self._working is not None:
            return
        notes = self.review.notes
        work: Callable[[Callable[[float], None]], object]
        if kind.kind == "still":
            clip_shown = self.review_place.stage.shows_picture()
            work = partial(
                _still, self.library.folder, record.id, target, measured,
                (self.review.playback.at_s, self.review.looking, self.review.finding), clip_shown,
            )  # fmt: skip
        elif kind.kind == "bundle":
            work = partial(_bundle, self.library.folder, record.id, target)
        elif kind.kind == "clip":
            work = partial(
                _clip, self.library.folder, record.id, target, measured, notes, slow, face
            )
        else:
            work = partial(
                _text_file, self.library.folder, record.id, kind.kind, target, measured, notes
            )
        self._show_work(0.0, f"Writing {target.name}")
        self._working = self.jobs.start(
            work, lambda _none: self._worked(f"Saved {target.name}."), self._work_failed,
            lambda share: self._show_work(share, f"Writing {target.name}"),
            lambda: self._worked("Stopped; nothing was written."),
        )  # fmt: skip

    def stop_work(self) -> None:
        if self._working is not None:
            self._working.stop()

    def _show_work(self, share: float | None, words: str = "") -> None:
        self.work.setVisible(share is not None)
        if share is not None:
            self.work_bar.setValue(round(100 * share))
            self.work_bar.setFormat(f"{words}  %p %")

    def _worked(self, words: str) -> None:
        self._working = None
        self._show_work(None)
        self.say(words)

    def _work_failed(self, error: Exception) -> None:
        self._working = None
        self._show_work(None)
        self._failed(error)


def _clip(  # noqa: PLR0913
    folder: Path, set_id: int, target: Path, measured: Measured, notes: SetNotes, slow: bool,
    face: bool, progress: Callable[[float], None],
) -> None:  # fmt: skip
    from guide_arc.formats.atomic import write_atomic  # noqa: PLC0415
    from guide_arc.formats.cues_vtt import vtt_text  # noqa: PLC0415
    from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415
    from guide_arc.reports.annotated import Wanted, annotated_clip  # noqa: PLC0415
    from guide_arc.reports.cues import said_cues, subtitles  # noqa: PLC0415

    library = Library.open(folder)
    try:
        clip = ClipSets(library).clip(set_id)
    finally:
        library.close()
    assert clip is not None
    cues = said_cues(measured, notes)
    annotated_clip(target, clip, measured, cues, Wanted(slow, face), progress)
    if not slow:  # then its times are the clip's own, and subtitles fit
        text = vtt_text(subtitles(cues, measured, clip.slowdown))
        write_atomic(target.with_suffix(".vtt"), text.encode(), 0o600)


def _still(  # noqa: PLR0913
    folder: Path, set_id: int, target: Path, measured: Measured,
    moment: tuple[float, Looking, Finding | None], clip_shown: bool, progress: Callable[[float], None],
) -> None:  # fmt: skip
    from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415
    from guide_arc.reports.still import write_still  # noqa: PLC0415

    progress(0.1)
    library = Library.open(folder)
    try:
        clip = ClipSets(library).clip(set_id) if clip_shown else None
    finally:
        library.close()
    write_still(target, measured, *moment, clip)


def _bundle(folder: Path, set_id: int, target: Path, progress: Callable[[float], None]) -> None:
    from guide_arc.library.bundles import write_set  # noqa: PLC0415

    progress(0.1)
    library = Library.open(folder)
    try:
        write_set(library, set_id, target)
    finally:
        library.close()


def _text_file(  # noqa: PLR0913
    folder: Path, set_id: int, kind: str, target: Path, measured: Measured, notes: SetNotes,
    progress: Callable[[float], None],
) -> None:  # fmt: skip
    from guide_arc.core.review.measure_all import measure_all  # noqa: PLC0415
    from guide_arc.formats.atomic import write_atomic  # noqa: PLC0415
    from guide_arc.formats.cues_vtt import vtt_text  # noqa: PLC0415
    from guide_arc.formats.measures_csv import measures_text  # noqa: PLC0415
    from guide_arc.formats.reps_csv import reps_text  # noqa: PLC0415
    from guide_arc.formats.track_file import write_track  # noqa: PLC0415
    from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415
    from guide_arc.reports.cues import said_cues, subtitles  # noqa: PLC0415

    progress(0.1)
    library = Library.open(folder)
    try:
        track, clip = library.track(set_id), ClipSets(library).clip(set_id)
    finally:
        library.close()
    if kind in ("track", "keypoints"):
        write_track(track, target, keypoints=kind == "keypoints")
        return
    if kind == "subtitles":
        said = subtitles(said_cues(measured, notes), measured, clip.slowdown if clip else 1.0)
        if not said:
            raise BadInput("There is no cue to write; keep a finding first.")
        text = vtt_text(said)
    elif kind == "reps":
        text = reps_text(measured.review)
    else:
        text = measures_text(track.time_s, measure_all(track, measured.review.standard))
    write_atomic(target, text.encode(), 0o600)
