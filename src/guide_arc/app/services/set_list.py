"""The list of sets that the coach goes through: filtered by words and state, and which one is
chosen."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Alone, Job, OnLibrary, Progress
from guide_arc.app.contract.signal import Signal
from guide_arc.library.queue_rows import PAGE, QueuePage, QueueRow, read_page

if TYPE_CHECKING:
    from guide_arc.library.store import Library

STATES: Final[tuple[tuple[str, str | None], ...]] = (
    ("waiting", "waiting"),
    ("reviewed", "done"),
    ("all", None),
)


class SetList:
    """Shared by the queue, where it is shown, and the review, which goes on to the next set.

    changed : other rows; chosen_changed : another set is chosen
    """

    changed: Signal[()] = Signal()
    chosen_changed: Signal[()] = Signal()

    def __init__(self, app: App, where: Path | str | None) -> None:
        """where : the library's folder, or the address of one on a server"""
        self._app, self._where = app, where
        self.words = ""
        self.state: str | None = "waiting"
        self.rows: tuple[QueueRow, ...] = ()
        self.waiting = 0
        self.takes_s = 0.0
        # How many rows are asked for; the list asks for more as it is scrolled.
        self.asked = PAGE
        self.chosen: int | None = None
        self.loaded = False
        # A library that can only be read is read through a copy, which only an open library has.
        self.through_library = isinstance(where, str)

    # Asking

    def read_at_once(self) -> None:
        """The rows straight from the file, for the first picture; nothing where that can't be."""
        if isinstance(self._where, Path):
            page = read_page(self._where, self.words, self.state, self.asked)
            if page is not None:
                self._take(page)

    def refresh(self) -> None:
        """Ask again, keeping the choice where it is still there."""
        self._app.start(self._reading(self.asked, 0), self._came)

    def _reading(self, count: int, after: int) -> Job[QueuePage | None]:
        """Rows, straight from a library's file: this works before it is loaded, and beside any
        writer."""
        words, state, through = self.words, self.state, self.through_library
        where = self._where

        def through_library(library: Library, _progress: Progress) -> QueuePage | None:
            return library.page(words, state, count, after)

        def from_file(_progress: Progress) -> QueuePage | None:
            return read_page(where, words, state, count, after) if isinstance(where, Path) else None

        work = OnLibrary(through_library) if through else Alone(from_file)
        return Job("", work, "queue", "now")

    def _came(self, page: QueuePage | None) -> None:
        if page is not None:
            self._take(page)

    def _take(self, page: QueuePage) -> None:
        self.rows, self.waiting, self.loaded = page.rows, page.waiting, True
        self.takes_s = page.takes_s
        ids = [row.id for row in self.rows]
        if self.chosen not in ids:
            self.chosen = ids[0] if ids else None
        self.changed.emit()

    def search(self, words: str) -> None:
        if words != self.words:
            self.words, self.asked = words, PAGE
            self.refresh()

    def show_state(self, state: str | None) -> None:
        if state != self.state:
            self.state, self.asked = state, PAGE
            self.refresh()

    @property
    def has_more(self) -> bool:
        """Whether there may be rows after those that were read."""
        return len(self.rows) >= self.asked

    def read_more(self) -> None:
        """The rows that follow, a page of them."""
        if not self.has_more:
            return
        words, state, there = self.words, self.state, self.rows
        self.asked = len(there) + PAGE

        def came(page: QueuePage | None) -> None:
            if (
                page is not None
                and self.rows is there
                and (self.words, self.state) == (words, state)
            ):
                self._take(page._replace(rows=there + page.rows))

        self._app.start(self._reading(PAGE, len(there)), came)

    # Choosing

    def choose(self, set_id: int | None) -> None:
        if set_id != self.chosen:
            self.chosen = set_id
            self.chosen_changed.emit()

    @property
    def chosen_row(self) -> QueueRow | None:
        return next((row for row in self.rows if row.id == self.chosen), None)

    def position(self, set_id: int) -> tuple[int, int]:
        """(place from 1, how many) of a set in the list; place 0 when it is not in it."""
        ids = [row.id for row in self.rows]
        return (ids.index(set_id) + 1 if set_id in ids else 0), len(ids)

    def beside(self, set_id: int, by: int) -> int | None:
        """The set before or after one in the list."""
        ids = [row.id for row in self.rows]
        if set_id not in ids:
            return ids[0] if ids else None
        at = ids.index(set_id) + by
        return ids[at] if 0 <= at < len(ids) else None
