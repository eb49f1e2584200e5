"""A scripted evening in the real window, with a watch on the event loop: `python watched_evening.py
LIBRARY`.

Prints, as JSON, how long the window's thread worked in one go outside of repaints: processor time,
so that other programs on the machine do not count.
"""

from __future__ import annotations

import json
import os
import sys
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from guide_arc.app.main import application, open_shell
from guide_arc.app.places.review.by_hand import felt_there
from guide_arc.app.services.destinations import ToQueue

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QApplication, QDialog

# What Qt sends when something is painted, quarantined out or shown for the first time.
REPAINTS = {
    QEvent.Type.Paint,
    QEvent.Type.UpdateRequest,
    QEvent.Type.LayoutRequest,
    QEvent.Type.Resize,
    QEvent.Type.Show,
    QEvent.Type.Expose,
    QEvent.Type.Polish,
    QEvent.Type.PolishRequest,
    QEvent.Type.StyleChange,
    QEvent.Type.UpdateLater,
    QEvent.Type.ShowToParent,
}


class Watched(QApplication):
    """Times every event that is handed out; what is painted within one is taken off it."""

    def __init__(self) -> None:
        super().__init__(["guide-arc"])
        self.doing = "start"
        self.depth = 0
        self.painted = 0.0
        self.worst: list[tuple[float, str, str]] = []

    def notify(self, receiver: QObject | None, event: QEvent | None) -> bool:
        kind = event.type() if event is not None else QEvent.Type.None_
        repaint = kind in REPAINTS
        outer = self.depth == 0
        self.depth += 1
        if outer:
            self.painted = 0.0
        painted = self.painted
        start = time.thread_time()
        try:
            return super().notify(receiver, event)
        finally:
            took = time.thread_time() - start
            self.depth -= 1
            if repaint:
                self.painted = painted + took
            elif outer:
                self.note(took - self.painted, f"{type(receiver).__name__} {kind!s}")

    def note(self, took: float, what: str) -> None:
        self.worst.append((1000 * took, self.doing, what))


def evening(app: Watched, folder: Path, given: Path) -> None:
    """Open, look through, decide, correct, undo, take in, export, go on."""
    assert application() is app
    shell, program = open_shell(folder)
    shell.show()

    def step(words: str, act: Callable[[], Any]) -> None:
        app.doing = words
        start = time.thread_time()
        painted, app.painted = app.painted, 0.0
        app.depth += 1
        act()
        app.depth -= 1
        app.note(time.thread_time() - start - app.painted, "the step itself")
        app.painted = painted
        while program.jobs.busy or not program.keeper.idle:
            app.processEvents()
            time.sleep(0.001)
        app.processEvents()

    def command(id: str) -> Callable[[], None]:
        return lambda: shell.actions_by_id[id].trigger()

    step("loading", lambda: None)
    first = next(r.id for r in program.sets.doc.rows if r.has_track)
    step("search", lambda: program.sets.search("curl"))
    step("search no more", lambda: program.sets.search(""))
    step("open", lambda: program.measuring.open(first))
    step("open again", lambda: program.measuring.open(first))
    for id in (
        "finding.keep",
        "finding.next",
        "finding.drop",
        "rep.next",
        "rep.delete",
        "edit.undo",
        "edit.redo",
        "edit.undo",
        "rep.merge",
        "edit.undo",
        "review.pain",
        "edit.undo",
        "view.path",
        "view.traces",
        "view.numbers",
        "rep.ghost",
        "rep.ghost",
        "view.compare-last",
        "view.compare-last",
        "view.turn",
    ):
        step(id, command(id))
    review: Any = shell.shown.made["review"]
    model = review.model
    step("felt", lambda: model.set_up(partial(felt_there, spot="biceps")))
    step("note", lambda: model.write_note("well done"))
    door = review.asking.leaving
    for export in door.offered():
        target = given.with_name(f"out-{export.id}{export.files[0][0]}")
        step(f"export {export.id}", lambda e=export, t=target: door.export(e, t))  # type: ignore[misc]
    step("page", lambda: door.save_page(given.with_name("page.pdf")))
    step("import", lambda: program.intake.take_in([given]))
    dialog = next(d for d in shell.findChildren(QDialog) if hasattr(d, "result_rows"))
    dialog.forms[0][1].client.setCurrentText("Ada Quill")  # type: ignore[attr-defined]
    step("import said", dialog.try_accept)  # type: ignore[attr-defined]
    step("next set", command("review.next-set"))
    step("reviewed", command("review.done"))
    step("undo reviewed", command("edit.undo"))
    step("to the queue", lambda: program.go(ToQueue()))
    step("erase", lambda: program.set_changes.erase(first, "Somebody"))
    step("undo erase", command("edit.undo"))
    step("dark", lambda: None)
    app.doing = "closing"
    shell.close()


def main() -> None:
    app = Watched()
    evening(app, Path(sys.argv[1]), Path(sys.argv[2]))
    worst = sorted(app.worst, reverse=True)[:12]
    sys.stdout.write(
        json.dumps([{"ms": round(ms, 1), "doing": d, "what": w} for ms, d, w in worst])
    )


if __name__ == "__main__":
    main()
