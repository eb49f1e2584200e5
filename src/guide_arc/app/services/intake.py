"""Files on their way into the library: looked into, asked about, taken in."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.clips import Clips
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.recorded_step import RecordedStep
from guide_arc.app.services.searching import Searching
from guide_arc.app.services.set_changes import SetChanges
from guide_arc.app.services.set_list import SetList
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import intake_jobs

if TYPE_CHECKING:
    from guide_arc.app.services.intake_jobs import Added, Looked
    from guide_arc.app.services.keeper import Keeper
    from guide_arc.library.changes import Changes
    from guide_arc.library.intake import Details, Incoming
    from guide_arc.library.quarantine import Quarantined

_NAMES = "marker-names"


class Intake:
    """Imports files: reads them, asks for what they do not say, and adds them.

    Signals:
    needs_files, needs_folder : the coach wants to choose files, or the folder to watch
    needs_clipboard : an answer is to be read from the clipboard
    needs_names : markers have to be named first (files, file name, its markers, a guess)
    needs_details : client and exercise have to be entered (files, sets that ask)
    needs_quarantine : the quarantined files and sets are to be shown
    came : sets were added (their ids)
    settled : files were imported or quarantined (their paths)
    busy : files that another process copies at the moment
    answers_came : clients' answers (their files, their texts)
    quarantined : the number of quarantined files or sets changed
    """

    needs_files: Signal[()] = Signal()
    needs_folder: Signal[()] = Signal()
    needs_clipboard: Signal[()] = Signal()
    needs_names: Signal[Looked, str, tuple[str, ...], Mapping[str, str]] = Signal()
    needs_details: Signal[Looked, list[Incoming]] = Signal()
    needs_quarantine: Signal[list[Quarantined]] = Signal()
    came: Signal[tuple[int, ...]] = Signal()
    settled: Signal[tuple[Path, ...]] = Signal()
    busy: Signal[tuple[Path, ...]] = Signal()
    answers_came: Signal[tuple[tuple[Path, str], ...]] = Signal()
    quarantined: Signal[()] = Signal()

    def __init__(
        self,
        app: App,
        library: OpenLibrary,
        set_changes: SetChanges,
        sets: SetList,
        clips: Clips,
        searching: Searching,
        keeper: Keeper,
    ) -> None:
        self._app, self._library, self._set_changes = app, library, set_changes
        self._sets = sets
        self._clips, self._searching, self._keeper = clips, searching, keeper
        self._names: dict[str, str] | None = None

    def ask_for_quarantine(self) -> None:
        """Show the quarantined files and sets."""
        self.read_quarantine(self.needs_quarantine.emit)

    def ask_for_files(self) -> None:
        self.needs_files.emit()

    def read_quarantine(self, then: Callable[[list[Quarantined]], None]) -> None:
        """Read the quarantined files and sets; `then` is called with them."""
        self._app.start(Job("", on_library(intake_jobs.all_quarantined), "set-aside", "now"), then)

    def leave(self, ones: tuple[Quarantined, ...]) -> None:
        """Remove entries from the quarantine; the files stay where they are."""
        job = Job("", on_library(intake_jobs.release, tuple(one.id for one in ones)), lane="now")
        self._app.start(job, lambda _none: self.quarantined.emit())

    def try_again(self, ones: tuple[Quarantined, ...]) -> None:
        """Import quarantined files and review quarantined sets again."""
        paths = [one.path for one in ones if one.path is not None]
        sets = tuple(one.set_id for one in ones if one.set_id is not None)
        if sets:
            self._app.start(
                Job("Reviewing again", on_library(intake_jobs.review_quarantined, sets)),
                lambda wrong: self._reviewed_again(sets, wrong),
            )
        self.take_in(paths)

    def _reviewed_again(self, sets: tuple[int, ...], wrong: list[str]) -> None:
        self._library.changed.emit(frozenset(sets))
        self.quarantined.emit()
        if wrong:
            self._app.say(wrong[0])

    def take_in(self, paths: Iterable[Path]) -> None:
        """Read files, ask what they do not say, and add them."""
        given = tuple(paths)
        if not given:
            return
        records = tuple(
            path
            for path in given
            if (path / "known.json").is_file() or (path / "library.json").is_file()
        )
        if records:
            self._app.start(
                Job("Taking the record in", on_library(intake_jobs.take_records, records)),
                self._added,
            )
            given = tuple(path for path in given if path not in records)
            if not given:
                return
        count = "one file" if len(given) == 1 else f"{len(given)} files"
        job = Job(
            f"Looking into {count}", on_library(intake_jobs.look, given, self.names()), lane="now"
        )
        self._app.start(job, self._looked)

    def names(self) -> dict[str, str]:
        """The answers for markers of other programs' files, landmark by marker."""
        if self._names is None:
            self._names = json.loads(self._library.library.setting(_NAMES, "{}"))
        return self._names

    def keep_names(self, said: dict[str, str]) -> None:
        kept = {**self.names(), **said}
        self._names = kept
        text = json.dumps(kept)
        self._keeper.keep(_NAMES, "the markers' names", lambda lib: lib.keep_setting(_NAMES, text))

    def _looked(self, looked: Looked) -> None:
        """If markers have to be named first, the user is asked, and the files are read again."""
        unnamed = next((r for r in looked.bad if r.unnamed is not None), None)
        if unnamed is not None and unnamed.unnamed is not None:
            markers = unnamed.unnamed
            self.needs_names.emit(looked, unnamed.name, markers.markers, markers.guessed)
        else:
            self.ask_about(looked)

    def ask_about(self, looked: Looked) -> None:
        """What was looked at without another word about markers. Whole sets say all by
        themselves."""
        if looked.answers:
            self.answers_came.emit(looked.answers)
        bundles = [item.bundle for item in looked.good if item.bundle]
        asked = [item for item in looked.good if not item.bundle]
        if bundles:
            self.add([], bundles)
        self.quarantined.emit()
        if asked or looked.bad:
            self.needs_details.emit(looked, asked)

    def add(
        self,
        rows: Iterable[tuple[Incoming, Details]],
        bundles: Iterable[Path] = (),
        words: tuple[tuple[str, str], ...] = (),
    ) -> None:
        """Take in what was asked about: tracks at once, clips after them, whole sets last.

        words : (client, word): from now on files with this word in their name are theirs
        """
        if words:
            self._agree(words)
        given, whole = tuple(rows), tuple(bundles)
        if not given and not whole:
            return
        clips = sum(item.clip is not None for item, _details in given)
        bar = (
            _count("Adding", len(given) - clips + len(whole), "set")
            if clips < len(given) or whole
            else _count("Copying", clips, "clip", " in")
        )
        self._app.start(Job(bar, on_library(intake_jobs.add, given, whole)), self._added)

    def _agree(self, words: tuple[tuple[str, str], ...]) -> None:
        job = Job("", on_library(intake_jobs.agree_on_words, words), lane="now")

        def done(changes: Changes) -> None:
            step = RecordedStep(self._library, changes)
            self._app.did(
                step.step(f"Names of files: {', '.join(w for _c, w in words)}", ToQueue())
            )

        self._app.start(job, done)

    def go_on_with_clips(self) -> None:
        """Finish the clips whose copying was cut off last time, and the small copies that are
        missing."""
        self._app.start(
            Job("Going on with clips", on_library(intake_jobs.go_on_with_clips)), self._went_on
        )

    def _went_on(self, added: Added) -> None:
        if added.ids or added.wrong or added.stopped:
            self._added(added)
        else:
            self._clips.make_small_copies()

    def _added(self, added: Added) -> None:
        ids = tuple(added.ids)
        if ids:
            self._set_changes.added(ids, "clip" if added.clips == len(ids) else "set")
            self._sets.show_new(ids[0])
            self.came.emit(ids)
        self.settled.emit(tuple(added.settled))
        self.busy.emit(tuple(added.busy))
        self.quarantined.emit()
        self._app.say(added.words)
        if added.to_search:
            self._searching.go_on()
        self._clips.make_small_copies()


def _count(verb: str, count: int, what: str, after: str = "") -> str:
    return f"{verb} {count} {what}{'' if count == 1 else 's'}{after}"
