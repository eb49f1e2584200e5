"""The list of sets that the coach goes through, as it is read from the library."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Alone, Job, OnLibrary, Progress
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.set_list_document import SetListDocument
from guide_arc.library.queue_rows import PAGE, QueuePage, read_page

if TYPE_CHECKING:
    from guide_arc.library.store import Library


class SetList:
    """Shared by the queue, which shows it, and the review, which goes on to the next set.

    changed : other rows; chosen_changed : another set is chosen
    """

    changed: Signal[()] = Signal()
    chosen_changed: Signal[()] = Signal()

    def __init__(self, app: App, where: Path | str | None) -> None:
        """where : the library's folder, or the address of one on a server"""
        self._app, self._where = app, where
        self.doc = SetListDocument()
        # A library that can only be read is read through a copy, which only an open library has.
        self.through_library = isinstance(where, str)

    def read_at_once(self) -> None:
        """The rows straight from the file, for the first picture; nothing where that can't be."""
        if isinstance(self._where, Path):
            page = read_page(self._where, self.doc.wanted(self.doc.asked))
            if page is not None:
                self._take(page)

    def refresh(self) -> None:
        """Query again, keeping the selection if it still exists."""
        self._app.start(self._reading(self.doc, self.doc.asked, 0), self._came)

    def _reading(self, doc: SetListDocument, count: int, after: int) -> Job[QueuePage | None]:
        """Rows, straight from a library's file: this works before it is loaded, and while any
        writer."""
        where, wanted = self._where, doc.wanted(count, after)

        def through_library(library: Library, _progress: Progress) -> QueuePage | None:
            return library.page(wanted)

        def from_file(_progress: Progress) -> QueuePage | None:
            return read_page(where, wanted) if isinstance(where, Path) else None

        work = OnLibrary(through_library) if self.through_library else Alone(from_file)
        return Job("", work, "queue", "now")

    def _came(self, page: QueuePage | None) -> None:
        if page is not None:
            self._take(page)

    def _take(self, page: QueuePage) -> None:
        self.doc = self.doc.with_page(page)
        self.changed.emit()

    def search(self, words: str) -> None:
        self._ask_for(self.doc.searching(words))

    def show_state(self, state: str | None) -> None:
        self._ask_for(self.doc.of_state(state))

    def show_coach(self, coach: str) -> None:
        """Only the sets of one coach's clients; empty for all."""
        self._ask_for(self.doc.of_coach(coach))

    def show_new(self, set_id: int) -> None:
        """Choose a set that came just now; a search that hides it ends."""
        doc = self.doc.searching("").of_coach("")
        self.doc = doc.of_state("waiting") if doc.state == "done" else doc
        self.choose(set_id)
        self.refresh()

    def _ask_for(self, doc: SetListDocument) -> None:
        if doc is not self.doc:
            self.doc = doc
            self.refresh()

    def read_more(self) -> None:
        """The rows that follow, a page of them."""
        before = self.doc
        if not before.has_more:
            return
        there = before.rows
        self.doc = replace(before, asked=len(there) + PAGE)

        def came(page: QueuePage | None) -> None:
            now = self.doc
            same = now.rows is there and now.wanted(0) == before.wanted(0)
            if page is not None and same:
                self._take(page._replace(rows=there + page.rows))

        self._app.start(self._reading(before, PAGE, len(there)), came)

    def choose(self, set_id: int | None) -> None:
        doc = self.doc.choosing(set_id)
        if doc is not self.doc:
            self.doc = doc
            self.chosen_changed.emit()
