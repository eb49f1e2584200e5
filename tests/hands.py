"""What a hand does to the window, and what an eye finds there."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal, overload

from PyQt6.QtCore import QEvent, QMimeData, QPointF, QSettings, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication

from guide_arc.app.entries import ENTRIES
from guide_arc.app.main import Entries, open_shell

if TYPE_CHECKING:
    from guide_arc.app.places.clients.place import ClientsPlace
    from guide_arc.app.places.marking.model import MarkingModel
    from guide_arc.app.places.marking.place import MarkingPlace
    from guide_arc.app.places.plan.place import PlanPlace
    from guide_arc.app.places.queue.place import QueuePlace
    from guide_arc.app.places.review.model import ReviewModel
    from guide_arc.app.places.review.place import ReviewPlace
    from guide_arc.app.places.review.sheet import ReviewSheet
    from guide_arc.app.places.setup.place import SetupPlace
    from guide_arc.app.places.standards.model import StandardsModel
    from guide_arc.app.places.standards.place import StandardsPlace
    from guide_arc.app.services.set_list import SetList
    from guide_arc.drawings.shown_set import ShownSet


class Hands:
    """One open window: where it stands, its places and their models, and what is asked of it.

    What a coach does is done by keys, mouse and commands; the names here only spare the way to what
    is seen.
    """

    def __init__(self, folder: Path | str, settings: QSettings, entries: Entries = ENTRIES) -> None:
        self.shell, self.program = open_shell(folder, settings, entries)
        self.shell.set_mode("light")
        self.shell.show()
        self.settle()

    def settle(self) -> None:
        """Let the window work until nothing runs any more."""
        self.shell.wait_until_quiet()

    def do(self, command: str) -> None:
        """A command, as menu and palette run it."""
        action = self.shell.actions_by_id[command]
        assert action.isEnabled(), f"{command} can't be used now"
        action.trigger()
        self.settle()

    def can(self, command: str) -> bool:
        return self.shell.actions_by_id[command].isEnabled()

    def open_set(self, set_id: int) -> None:
        self.program.measuring.open(set_id)
        self.settle()

    def undo(self) -> None:
        self.do("edit.undo")

    def redo(self) -> None:
        self.do("edit.redo")

    # Where things are

    @property
    def place(self) -> str:
        return self.shell.shown.id

    @overload
    def of(self, place: Literal["queue"]) -> QueuePlace: ...
    @overload
    def of(self, place: Literal["review"]) -> ReviewPlace: ...
    @overload
    def of(self, place: Literal["marking"]) -> MarkingPlace: ...
    @overload
    def of(self, place: Literal["standards"]) -> StandardsPlace: ...
    @overload
    def of(self, place: Literal["clients"]) -> ClientsPlace: ...
    @overload
    def of(self, place: Literal["plan"]) -> PlanPlace: ...
    @overload
    def of(self, place: Literal["setup"]) -> SetupPlace: ...
    @overload
    def of(self, place: str) -> Any: ...
    def of(self, place: str) -> Any:
        return self.shell.shown.made[place]

    @property
    def sets(self) -> SetList:
        return self.program.sets

    @property
    def queue_place(self) -> QueuePlace:
        return self.of("queue")

    @property
    def review(self) -> ReviewModel:
        """The review's model."""
        return self.of("review").model

    @property
    def review_place(self) -> ReviewSheet:
        """The review's sheet of instruments."""
        return self.of("review").sheet

    @property
    def shown(self) -> ShownSet:
        """The set that is open in the review, as it was measured."""
        measured = self.review.doc.measured
        assert measured is not None, "no set is open"
        return measured

    @property
    def open_id(self) -> int:
        """The number of the set that is open in the review."""
        record = self.review.doc.record
        assert record is not None, "no set is open"
        return record.id

    @property
    def marking(self) -> MarkingModel:
        return self.of("marking").model

    @property
    def marking_place(self) -> MarkingPlace:
        return self.of("marking")

    @property
    def standards(self) -> StandardsModel:
        return self.of("standards").model

    @property
    def standards_place(self) -> StandardsPlace:
        return self.of("standards")

    @property
    def said(self) -> str:
        return self.shell.foot.said.text()

    def head(self, part: str) -> str:
        """A part of the header: `title`, `guide`, `position`, …"""
        return self.shell.header.labels[part].text()

    @property
    def undo_words(self) -> str | None:
        return self.program.history.undo_words

    @property
    def redo_words(self) -> str | None:
        return self.program.history.redo_words

    def close(self) -> None:
        self.shell.close()


def dialog_of(window: Hands | Any, kind: Any) -> Any:
    """The open dialog of a kind, once it is there."""
    shell = window.shell if isinstance(window, Hands) else window
    QApplication.processEvents()
    found = [d for d in shell.findChildren(kind) if d.isVisible()]
    assert found, f"no {kind.__name__} is open"
    return found[-1]


def press(
    qtbot: Any, window: Hands, key: Qt.Key, modifier: Any = Qt.KeyboardModifier.NoModifier
) -> None:
    """A key, where the focus is; the window then works until nothing runs any more."""
    window.shell.activateWindow()  # a dialog that closed may have left the focus nowhere
    QApplication.processEvents()
    target = QApplication.focusWidget() or window.shell
    qtbot.keyClick(target, key, modifier)
    QApplication.processEvents()
    window.settle()


def drop(window: Hands, *paths: Path) -> None:
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    window.shell.dropEvent(
        QDropEvent(
            QPointF(100, 100),
            Qt.DropAction.CopyAction,
            mime,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
    )
    QApplication.processEvents()
    window.settle()


def take_apart(window: Hands) -> None:
    """Close a window and leave nothing of it behind."""
    window.close()
    assert not window.program.jobs.busy
    window.shell.deleteLater()
    window.program.deleteLater()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
