"""What leaves the review: the client's page, and the set in open forms. Written off the window's
thread."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QApplication, QFileDialog, QWidget

from guide_arc.app.contract.job import Job, OnLibrary, Progress
from guide_arc.app.places.review.export_dialog import ExportDialog
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.app.widgets.asking import open_dialog
from guide_arc.formats.file_names import file_name_part
from guide_arc.library.answers import page_key
from guide_arc.library.clients import Clients
from guide_arc.library.records import SetRecord
from guide_arc.library.setups import kept_setups
from guide_arc.library.store import Library
from guide_arc.reports.exports.export import Export, Leaving
from guide_arc.reports.exports.registry import exports
from guide_arc.reports.page import write_page


def file_name(record: SetRecord, ending: str) -> str:
    """A file name for what leaves a set: client, day, exercise."""
    words = f"{record.client} {record.recorded[:10]} {record.standard}".lower()
    return "-".join(file_name_part(words, "set").replace("_", " ").split()) + ending


class SetExports:
    """parent : whose window the dialogs belong to"""

    def __init__(self, program: ReviewNeeds, model: ReviewModel, parent: QWidget) -> None:
        self.program, self.model, self.parent = program, model, parent

    # The page

    def ask_for_page(self) -> None:
        record = self.model.doc.record
        if record is None:
            return
        name = self._ask_where(
            "Page for the client", record, ".pdf", "PDF, with HTML next to it (*.pdf)", "pages"
        )
        if name is not None:
            self.save_page(name)

    def _ask_where(
        self, title: str, record: SetRecord, ending: str, filter: str, remembered: str
    ) -> Path | None:
        settings = self.program.remembered
        folder = Path(settings.text(remembered, str(Path.home())))
        name, chosen = QFileDialog.getSaveFileName(
            self.parent.window(), title, str(folder / file_name(record, ending)), filter
        )
        if not name:
            return None
        target = Path(name)
        if not target.suffix:
            target = target.with_suffix("." + chosen.rpartition("*.")[2].rstrip(")"))
        settings.keep(remembered, str(target.parent))
        return target

    def save_page(self, target: Path) -> None:
        """Write the client's page as PDF, and as HTML next to it."""
        record, measured, notes = (
            self.model.doc.record,
            self.model.doc.measured,
            self.model.doc.notes,
        )
        if record is None or measured is None:
            return
        coach = self.program.library.coach

        def run(library: Library, progress: Progress) -> Path:
            progress(0.0)
            kept = kept_setups(library, record.standard, record.client)
            return write_page(
                target,
                record,
                measured,
                notes,
                coach,
                kept[-1] if kept else None,
                answer=None if library.read_only else page_key(library, record.id, date.today()),
            )

        def done(path: Path) -> None:
            self.program.say(f"Saved {path.name} and {path.with_suffix('.html').name}.")
            if (
                self.program.remembered.text("open_pages", "yes") == "yes"
                and self.parent.isVisible()
                and QApplication.platformName() not in ("offscreen", "minimal")
            ):
                QDesktopServices.openUrl(QUrl.fromLocalFile(str(path)))

        job = Job("Making the page", OnLibrary(run), lane="now")
        self.program.start(job, done)

    # Open forms

    def offered(self) -> list[Export]:
        """The forms that the open set can leave in."""
        record, measured = self.model.doc.record, self.model.doc.measured
        if record is None or measured is None:
            return []
        has_clip, in_space = record.clip_hash is not None, measured.can_turn
        return [e for e in exports() if e.fits(has_clip=has_clip, in_space=in_space)]

    def ask_for_export(self) -> None:
        """Which form, then where."""
        offered = self.offered()
        if not offered:
            return
        record = self.model.doc.record
        assert record is not None, "nothing is offered without one"
        client = Clients(self.program.library.library).client(record.client)
        dialog = ExportDialog(
            self.parent,
            offered,
            has_clip=record.clip_hash is not None,
            covers_face=client.covers_face,
        )
        open_dialog(dialog, lambda: self._ask_where_to(dialog))

    def _ask_where_to(self, dialog: ExportDialog) -> None:
        export, record = dialog.chosen(), self.model.doc.record
        if record is None:
            return
        ending = export.files[0][0]
        target = self._ask_where(export.words, record, ending, export.filter, "exports")
        if target is not None:
            self.export(export, target, slow=dialog.slow.isChecked(), face=dialog.face.isChecked())

    def export(
        self,
        export: Export,
        target: Path,
        *,
        slow: bool = True,
        face: bool = False,
        over_clip: bool = False,
    ) -> None:
        """Write the open set in a form."""
        model = self.model
        if model.doc.record is None or model.doc.measured is None:
            return
        record = replace(model.doc.record, notes=model.doc.notes)
        shown, at_s, looking = model.doc.measured, model.playback.at_s, model.doc.looking
        finding = model.doc.finding

        def run(library: Library, progress: Progress) -> None:
            progress(0.0)
            leaving = Leaving(
                library=library,
                record=record,
                shown=shown,
                notes=record.notes,
                at_s=at_s,
                looking=looking,
                finding=finding,
                over_clip=over_clip,
                slow=slow,
                cover_face=face,
            )
            export.write(leaving, target, progress)

        job = Job(
            f"Writing {target.name}",
            OnLibrary(run),
            f"export/{target}",
            stopped="Stopped; nothing was written.",
        )
        self.program.start(job, lambda _none: self.program.say(f"Saved {target.name}."))
