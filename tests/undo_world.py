"""A library used by two windows and a command line, next to a plain model of what must be in it.

The model is a dictionary of rows. What a step changed is the difference between two such
dictionaries, and undo is that difference backwards, field by field, wherever a field is still as
the step left it.
"""

from __future__ import annotations

import hashlib
import itertools
import json
import sqlite3
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any, cast

from guide_arc.app.contract.history import Step, UndoHistory
from guide_arc.app.contract.job import AnyTask, Job, OnLibrary, Task, on_library
from guide_arc.app.places.clients.model import ClientsModel
from guide_arc.app.services import client_jobs
from guide_arc.app.services.destinations import ToReview
from guide_arc.app.services.evening import Evening
from guide_arc.app.services.follow_ups import FollowUps
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.set_changes import SetChanges
from guide_arc.app.services.set_jobs import LoadedLibrary
from guide_arc.core.model.client import Client
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Mark, Marks
from guide_arc.core.model.settings import Correction
from guide_arc.core.planning.plan import Plan, PlannedLine, PlannedSession
from guide_arc.library import backups
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.errors import Gone
from guide_arc.library.intake import details_of, fields_of
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.planning import keep_plan, plan_of_client
from guide_arc.library.records import Decision, SetPart
from guide_arc.library.store import Library
from guide_arc.library.taking_out import forget_taken_out

if TYPE_CHECKING:
    from guide_arc.app.services.program import Program

Key = tuple[str, Any]
Rows = dict[Key, dict[str, Any]]
# One changed row: its key, and its values before and after; None where there was or is no row. The
# same values twice are of a client or a recording that another changed row names.
Change = tuple[Key, dict[str, Any] | None, dict[str, Any] | None]

# The words of a step whose changes are joined with those of other windows.
JOINED = "Joined step"
NAMES = ("Al", "Ada Quill", "Ada", "Benno Hartz", "Cleo Marsh", "Finn Adair")
CURL, ROW = "standing-barbell-curl", "seated-row-narrow-low"
# Computed from the recording at any time, so not part of what a step changes.
_DERIVED = {"urgency", "clean", "search"}
_KEYS: Mapping[str, tuple[str, ...]] = {
    "client": ("id",),
    "recorded_set": ("id",),
    "track": ("hash",),
    "clip": ("hash",),
    "decision": ("set_id", "finding"),
    "kept": ("id",),
    "setting": ("key",),
}


def rows_in(folder: Path) -> Rows:
    """Every row of a library's file that a person could miss, read without any of the program's
    code."""
    out: Rows = {}
    db = sqlite3.connect(f"{(folder / 'library.sqlite').as_uri()}?mode=ro", uri=True)
    try:
        for table, keys in _KEYS.items():
            cursor = db.execute(f"select * from {table}")
            columns = [c[0] for c in cursor.description]
            for values in cursor:
                row = dict(zip(columns, values, strict=True))
                if row.get("kind") == "set-aside":
                    continue
                if table == "decision":
                    del row["id"]
                parts = _marked(row) if table == "recorded_set" else {}
                if row.get("kind") == "plan":
                    parts = _planned(row)
                    row["document"] = ""
                key = tuple(row[k] for k in keys)
                assert (table, key) not in out, f"two rows of {table} are {key}"
                out[table, key] = {c: v for c, v in row.items() if c not in _DERIVED}
                out |= parts
    finally:
        db.close()
    return out


def _planned(row: dict[str, Any]) -> Rows:
    """A plan as a row for each of its sessions: windows join their plans session by session."""
    return {
        ("plan", (row["id"], session["on"])): {"kept_id": row["id"], "session": session}
        for session in json.loads(row["document"])["sessions"]
    }


def _marked(row: dict[str, Any]) -> Rows:
    """What was marked on a set's clip as a row for each mark: windows join them mark by mark."""
    points = json.loads(row.pop("marks") or "{}").get("points", {})
    return {
        ("mark", (row["id"], name, frame)): {"set_id": row["id"], "at": [x, y]}
        for name, marks in points.items()
        for frame, x, y in marks
    }


def changed(before: Rows, after: Rows) -> list[Change]:
    """The rows that differ."""
    return [
        (key, before.get(key), after.get(key))
        for key in {**before, **after}
        if before.get(key) != after.get(key)
    ]


def with_owners(changes: list[Change], before: Rows) -> list[Change]:
    """The changes with the clients and recordings that changed rows name."""
    known = {key for key, _was, _left in changes}
    named = {
        (table, (was[column],))
        for _key, was, _left in changes
        for column, table in (
            ("client_id", "client"),
            ("track_hash", "track"),
            ("clip_hash", "clip"),
        )
        if was and was.get(column)
    }
    return [*changes, *((key, before[key], before[key]) for key in sorted(named - known, key=str))]


def reverted(now: Rows, changes: list[Change], *, joined: bool = False) -> Rows:
    """What must be there once a step's changes are taken back. joined: of a step that is joined
    with others' changes"""
    out = {key: dict(row) for key, row in now.items()}
    same_person: dict[int, int] = {}
    for (table, key), was, left in changes:
        if table == "client" and was and (left is None or _is_needed(key[0], changes)):
            if (table, key) in out:
                continue
            other = next(
                (k[1][0] for k, r in out.items() if k[0] == "client" and r["name"] == was["name"]),
                None,
            )
            if other is not None and other != key[0]:
                same_person[key[0]] = other
            else:
                out.setdefault((table, key), dict(was))
    for (table, key), was, left in changes:
        if table == "client" or was is None:
            continue
        own = dict(was)
        if left is None or table in ("track", "clip"):
            if "client_id" in own:
                own["client_id"] = same_person.get(own["client_id"], own["client_id"])
            where = (table, key)
            if not joined and (
                (table == "plan" and ("kept", (key[0],)) in now)
                or (table == "mark" and ("recorded_set", (key[0],)) in now)
            ):
                continue  # a part of a row that came back already, with a copy of the library
            if table in ("recorded_set", "track", "clip") or _is_wanted(out, own, now):
                out.setdefault(where, own)
        elif (table, key) in out:
            _put_fields_back(out[table, key], own, left, same_person)
    for (table, key), was, left in changes:
        if table == "client" and was is not None and left is not None and (table, key) in out:
            _put_fields_back(out[table, key], was, left, {})
    for (table, key), was, left in changes:
        if table == "recorded_set" and was is None:
            _drop_set(out, key[0])
        elif (
            was is None
            and left is not None
            and out.get((table, key)) == left
            and _goes(table, left, joined=joined)
            and (joined or not _is_another_plan(out, changes, table, key))
        ):
            del out[table, key]
    for row in [r for k, r in out.items() if k[0] == "recorded_set"]:
        if (
            row["other_view_of"] is not None
            and ("recorded_set", (row["other_view_of"],)) not in out
        ):
            row["other_view_of"] = None
    for (table, key), was, left in changes:
        if table == "client" and was is None and out.get((table, key)) == left:
            used = any(r.get("client_id") == key[0] for r in out.values())
            if not used:
                del out[table, key]
    return _without_unnamed_files(out)


def _goes(table: str, row: dict[str, Any], *, joined: bool) -> bool:
    """Whether a row that a step made goes with its undo. The plan of a step that planned stays,
    without its sessions."""
    if table in ("decision", "setting", "plan", "mark"):
        return True
    return table == "kept" and (row["kind"] != "plan" or not joined)


def _is_another_plan(out: Rows, changes: list[Change], table: str, key: Any) -> bool:
    """Whether a row belongs to a plan whose sessions were changed by somebody else since."""
    if table not in ("kept", "plan"):
        return False
    made = {
        k: left for k, was, left in changes if k[0] == "plan" and k[1][0] == key[0] and was is None
    }
    return {k: r for k, r in out.items() if k[0] == "plan" and k[1][0] == key[0]} != made


def _is_needed(client: int, changes: list[Change]) -> bool:
    """Whether something comes back to a client who was not changed by the step itself."""
    return any(
        was and was.get("client_id") == client and (not left or left.get("client_id") != client)
        for _key, was, left in changes
    )


def _is_wanted(rows: Rows, row: dict[str, Any], now: Rows) -> bool:
    """A decision, a mark or a session comes back only with its set or its plan."""
    of_set = "set_id" not in row or ("recorded_set", (row["set_id"],)) in rows
    if "document" in row and any(
        all(other.get(c) == row[c] for c in ("kind", "client_id", "about", "name"))
        for key, other in now.items()
        if key[0] == "kept"
    ):
        return False  # somebody has stored another one in its place since
    return of_set and ("kept_id" not in row or ("kept", (row["kept_id"],)) in rows)


def _put_fields_back(
    row: dict[str, Any], was: dict[str, Any], left: dict[str, Any], people: dict[int, int]
) -> None:
    for column, value in was.items():
        if value != left[column] and row[column] == left[column]:
            row[column] = people.get(value, value) if column == "client_id" else value


def _drop_set(rows: Rows, set_id: int) -> None:
    rows.pop(("recorded_set", (set_id,)), None)
    for key, row in list(rows.items()):
        about = key[0] == "kept" and row["kind"] == "reviewed" and row["name"] == str(set_id)
        if about or row.get("set_id") == set_id:
            del rows[key]


def _without_unnamed_files(rows: Rows) -> Rows:
    """The rows without recordings that no set names, and without sessions whose plan is gone."""
    kept = {key[1][0] for key in rows if key[0] == "kept"}
    rows = {k: r for k, r in rows.items() if r.get("kept_id") is None or r["kept_id"] in kept}
    named = {
        (table, row[column])
        for key, row in rows.items()
        if key[0] == "recorded_set"
        for table, column in (("track", "track_hash"), ("clip", "clip_hash"))
    }
    return {
        k: r for k, r in rows.items() if k[0] not in ("track", "clip") or (k[0], k[1][0]) in named
    }


def without_set(rows: Rows, set_id: int, *, with_client: bool = True) -> Rows:
    """What must be left once a set was erased."""
    out = {key: dict(row) for key, row in rows.items()}
    client = out["recorded_set", (set_id,)]["client_id"]
    _drop_set(out, set_id)
    for key, row in out.items():
        if key[0] == "recorded_set" and row["other_view_of"] == set_id:
            row["other_view_of"] = None
    out = _without_unnamed_files(out)
    bare = out["client", (client,)]["profile"] in ("", "{}")
    used = any(row.get("client_id") == client for row in out.values())
    if with_client and bare and not used:
        del out["client", (client,)]
    return out


def without_client(rows: Rows, client: int) -> Rows:
    """What must be left once a client was erased."""
    out = rows
    for key in [k for k, r in rows.items() if k[0] == "recorded_set" and r["client_id"] == client]:
        out = without_set(out, key[1][0], with_client=False)
    out = {
        k: r for k, r in out.items() if r.get("client_id") != client and k != ("client", (client,))
    }
    return _without_unnamed_files(out)


def _same(actual: Rows, want: Rows) -> None:
    wrong = [
        f"{key}: is {actual.get(key)}, must be {want.get(key)}"
        for key, _was, _left in changed(actual, want)
    ]
    assert not wrong, "\n".join(wrong)


class App:
    """What a window's services ask of the program, done at once."""

    def __init__(self, folder: Path) -> None:
        self.history = UndoHistory()
        self.said: list[str] = []
        self.broken: list[Exception] = []
        self.gone = False
        self.library = OpenLibrary(cast("Program", self), folder, folder)
        self.set_changes = SetChanges(cast("Program", self), self.library)

    def say(self, words: str) -> None:
        self.said.append(words)

    def go(self, _place: str, **_what: Any) -> None:
        pass

    def changed(self) -> None:
        pass

    def did(self, step: Step) -> None:
        self.history.push(step)

    def start_over(self) -> None:
        self.history.forget()

    def start(
        self, job: Job[Any], done: Callable[[Any], object], over: Callable[[], None] | None = None
    ) -> None:
        aside = self.library.aside
        where = self.library.where
        work = job.work
        opened = None
        self.gone = False
        try:
            if isinstance(work, OnLibrary):
                opened = Library.open(where, aside=aside, make=False)
                answer = work.run(opened, lambda _share: None)
            else:
                answer = work.run(lambda _share: None)
        except Gone as error:
            self.gone = True
            self.said.append(str(error))
            return
        except BadInput as error:
            self.said.append(str(error))
            return
        except Exception as error:
            self.broken.append(error)
            return
        finally:
            if opened is not None:
                opened.close()
            if over is not None:
                over()
        done(answer)

    def move(self, way: str) -> bool:
        """Undo or redo; whether the step moved."""
        step = self.history.to_undo() if way == "undo" else self.history.to_redo()
        if step is None:
            return False
        moved: list[bool] = []

        def through(_left: str | None) -> None:
            (self.history.undone if way == "undo" else self.history.redone)(step)
            moved.append(True)

        try:
            task = step.undo() if way == "undo" else step.redo()
        except BadInput as error:
            self.said.append(str(error))
            return False
        if task is None or isinstance(task, str):
            through(task)
        else:
            task.begin(self, through)
            if self.gone and not moved:
                self.history.drop(step)
        return bool(moved)


@dataclass
class Window:
    """One window's services, and what the model knows of its steps. held : hashes of what it
    erased"""

    folder: Path
    past: list[list[Change]] = field(default_factory=list)
    future: list[list[Change]] = field(default_factory=list)
    held: set[str] = field(default_factory=set)
    held_sets: set[int] = field(default_factory=set)
    fresh: set[int] = field(default_factory=set)

    def __post_init__(self) -> None:
        self.app = App(self.folder)
        library = Library.open(self.folder, aside=self.app.library.aside)
        forget_taken_out(library)
        own = OwnStandards(library)
        self.app.library._opened(LoadedLibrary(library, own, own.catalogue(), "Marit Engel"))
        self.clients = ClientsModel(cast("Program", self.app))
        self.evening = Evening(cast("Program", self.app), self.app.library)
        self.follow_ups = FollowUps(cast("Program", self.app), self.app.library)

    def close(self) -> None:
        self.app.library.close()


class World:
    """The library, its users, and what must be in it. clip : a small clip to take in under other
    names"""

    def __init__(self, folder: Path, clip: Path | None = None) -> None:
        self.folder, self._clip = folder, clip
        Library.open(folder).close()
        self.windows = [Window(folder), Window(folder)]
        self.expected = rows_in(folder)
        self.ever: set[tuple[str, int]] = set()
        self.copies: dict[Path, Rows] = {}
        self.doubtful: dict[Path, set[int]] = {}
        # Recordings that a restored copy does not name: they stay, and can be listed again.
        self.unlisted: set[str] = set()
        self._numbers = itertools.count(1)
        self._day = date(2031, 3, 1)
        self.moment = datetime(2031, 3, 1, 18)
        # Hears before each step what it is and what must be there after it, where that is known
        # beforehand.
        self.journal: Callable[[str, Rows | None], None] = lambda _step, _want: None

    # What there is to choose from

    @property
    def sets(self) -> list[int]:
        return sorted(k[1][0] for k in self.expected if k[0] == "recorded_set")

    @property
    def names(self) -> list[str]:
        return sorted(r["name"] for k, r in self.expected.items() if k[0] == "client")

    def client_id(self, name: str) -> int:
        found = (
            k[1][0] for k, r in self.expected.items() if k[0] == "client" and r["name"] == name
        )
        return int(next(found))

    def has_plan(self, name: str) -> bool:
        client = self.client_id(name)
        return any(
            key[0] == "kept" and row["kind"] == "plan" and row["client_id"] == client
            for key, row in self.expected.items()
        )

    def client_of(self, set_id: int) -> str:
        row = self.expected["recorded_set", (set_id,)]
        return str(self.expected["client", (row["client_id"],)]["name"])

    # Doing

    def did(self, window: Window | None, want: Rows | None = None) -> None:
        """Something was done: hold the library against what was wanted of it, and the step into the
        model's list."""
        actual = rows_in(self.folder)
        if want is not None:
            _same(actual, want)
        changes = with_owners(changed(self.expected, actual), self.expected)
        self._no_number_twice(changes)
        if window is not None:
            if len(window.app.history._past) > len(window.past):
                window.past.append(changes)
                window.future.clear()
            self._held(window, changes)
        self.expected = actual
        self.check()

    def _no_number_twice(self, changes: list[Change]) -> None:
        for (table, key), was, left in changes:
            if table in ("client", "recorded_set") and was is None and left is not None:
                assert (table, key[0]) not in self.ever, f"number {key[0]} of {table} is used again"
                self.ever.add((table, key[0]))

    def numbered_from(self, first: int) -> None:
        """Count the recordings on from a number, or one that an earlier process added comes
        again."""
        self._numbers = itertools.count(first)

    def _held(self, window: Window, changes: list[Change]) -> None:
        for (table, key), was, left in changes:
            if table in ("track", "clip") and left is None and was is not None:
                window.held.add(key[0])
            if table == "recorded_set" and left is None and was is not None:
                window.held_sets.add(key[0])
                window.held |= {was["track_hash"], was["clip_hash"]} - {None}

    def move(self, window: Window, way: str) -> None:
        """Undo or redo in a window; then the library is as the model says, or as it was and the
        step still there."""
        steps = window.past if way == "undo" else window.future
        history = window.app.history
        step = history.to_undo() if way == "undo" else history.to_redo()
        assert bool(steps) == (step is not None)
        if step is None:
            assert not window.app.move(way)
            return
        # Decisions, marks and plans are joined with what others changed: redo does the same again.
        joined = step.words == JOINED
        want = self._after(window, step.words, steps[-1], joined=joined)
        self.journal(way, want)
        moved = window.app.move(way)
        if window.app.gone:
            # What the step was about was erased by somebody else: nothing changed, and the step is
            # dropped.
            _same(rows_in(self.folder), self.expected)
            steps.pop()
            return
        assert moved, f"{way} of a step failed: {window.app.said[-1:]}{window.app.broken[-1:]}"
        if joined and self._is_of_a_lost_plan(steps[-1]):
            # A plan is found by its client's name: this one was erased, and another one made since.
            want = rows_in(self.folder)
        _same(rows_in(self.folder), want)
        done = steps.pop()
        back = with_owners(changed(self.expected, want), self.expected)
        again = [(key, left, was) for key, was, left in done] if joined else back
        (window.future if way == "undo" else window.past).append(again)
        self._held(window, back)
        self.expected = want
        self.check()

    def _is_of_a_lost_plan(self, changes: list[Change]) -> bool:
        return any(
            key[0] == "plan" and ("kept", (key[1][0],)) not in self.expected
            for key, _was, _left in changes
        )

    def _after(self, window: Window, words: str, changes: list[Change], *, joined: bool) -> Rows:
        """What must be there after a step's undo or redo."""
        added = [
            key[1][0] for key, was, _left in changes if key[0] == "recorded_set" and was is None
        ]
        if words.startswith("Add ") and added and added[0] in window.fresh:
            # The first undo of sets that came in erases them: a name without a set goes with them.
            window.fresh.discard(added[0])
            want = self.expected
            for set_id in [i for i in added if ("recorded_set", (i,)) in want]:
                want = without_set(want, set_id)
            return want
        return reverted(self.expected, changes, joined=joined)

    def check(self) -> None:
        """No error of the program's own, every recording there and whole, and none that nobody
        knows of."""
        for window in self.windows:
            assert not window.app.broken, window.app.broken
        named = {
            (place, row["hash"])
            for key, row in self.expected.items()
            for table, place in (("track", "tracks"), ("clip", "clips"))
            if key[0] == table
        }
        held = {h for window in self.windows for h in window.held} | self.unlisted
        for place, ends in (("tracks", (".csv", ".json")), ("clips", (".mp4",))):
            there = {
                p.stem
                for p in (self.folder / place).glob("*.*")
                if p.suffix in ends
                and not p.name.endswith(".proxy.mp4")
                and not p.name.startswith(".")
            }
            wanted = {h for p, h in named if p == place}
            assert wanted <= there, f"recordings are gone: {wanted - there}"
            assert there - wanted <= held, (
                f"recordings that nobody knows of: {there - wanted - held}"
            )
            for key in wanted:
                file = next((self.folder / place).glob(f"{key}.*[!g]"))
                if file.suffix in ends:
                    assert hashlib.sha256(file.read_bytes()).hexdigest() == key

    # The steps. Each names a window, or the command line

    def track_bytes(self, same_as: bytes | None = None) -> bytes:
        if same_as is not None:
            return same_as
        n = next(self._numbers)
        points = ("left_hip", "right_hip", "left_shoulder", "right_shoulder")
        head = ",".join(f"{p}_{a}" for p in points for a in "xyz")
        lines = [f"{t / 30:.4f}," + ",".join(["0.1,1.0,0.0"] * 4) for t in range(3)]
        text = (
            "# landmark-track: 1\n# space: world\n# units: m\n# view: none\n# number:"
            f" {n}\ntime_s,{head}\n"
        )
        return (text + "\n".join(lines) + "\n").encode()

    def add(self, window: Window, name: str, *, again: bool = False) -> None:
        data = self._some_track() if again else None
        data = self.track_bytes(data)

        def work(library: Library, _progress: Any) -> int:
            return library.add_set(
                data, "a.csv", client=name, standard=CURL, school="locked-upper-arm", again=again
            )[0]

        window.app.start(Job("", OnLibrary(work)), lambda set_id: self._came(window, set_id, "set"))
        self.did(window)

    def _some_track(self) -> bytes | None:
        files = sorted((self.folder / "tracks").glob("*.csv"))
        named = {k[1][0] for k in self.expected if k[0] == "track"}
        return next((f.read_bytes() for f in files if f.stem in named), None)

    def add_clip(self, window: Window, name: str) -> None:
        if self._clip is None:
            return
        number = next(self._numbers)
        source = self.folder.parent / f"clip-{number}.mp4"
        # A free box at the end makes it another file with the same pictures.
        source.write_bytes(
            self._clip.read_bytes() + (12).to_bytes(4, "big") + b"free" + number.to_bytes(4, "big")
        )
        details = ClipDetails(name, CURL, "locked-upper-arm", "left", recorded="2031-03-01")

        def work(library: Library, _progress: Any) -> int:
            return ClipSets(library).add(source, details)[0]

        window.app.start(
            Job("", OnLibrary(work)), lambda set_id: self._came(window, set_id, "clip")
        )
        source.unlink()
        self.did(window)

    def _came(self, window: Window, set_id: int, what: str) -> None:
        window.fresh.add(set_id)
        window.app.set_changes.added((set_id,), what)

    def mark(self, window: Window, set_id: int, x: float) -> None:
        """Mark a point on a clip, as the marking place does."""
        library = window.app.library.library
        before = ClipSets(library).marks(set_id)
        after = before.with_mark("left_elbow", Mark(0, round(x, 1), 20.0))

        def task(to: Marks, since: Marks) -> Task[Any]:
            def work(opened: Library, _progress: Any) -> None:
                ClipSets(opened).keep_marks(set_id, to, since, False)

            return Task(Job("", OnLibrary(work)), lambda _none: None)

        self._step(window, task(after, before), lambda: task(before, after))

    def _step(self, window: Window, task: AnyTask, undo: Callable[[], AnyTask]) -> None:
        def done(_message: str | None) -> None:
            window.app.did(Step(JOINED, ToReview(), undo, lambda: task))

        task.begin(window.app, done)
        self.did(window)

    def decide(self, window: Window, set_id: int, finding: str, choice: str) -> None:
        before = window.app.library.library.record(set_id).notes
        decided = Decision(choice, None, "Marit Engel", "2031-03-01")  # type: ignore[arg-type]
        after = replace(before, decisions={**before.decisions, finding: decided})
        putting = window.app.set_changes.putting_notes
        self._step(window, putting(set_id, after, before), lambda: putting(set_id, before, after))

    def review(self, window: Window, set_id: int) -> None:
        """Mark a set reviewed, in one go as the queue does."""
        self.moment += timedelta(minutes=1)
        window.evening.mark_reviewed((set_id,))
        self.did(window)

    def keep_review(self, set_id: int) -> None:
        """A helper of the command line computes a review."""
        library = Library.open(self.folder)
        library.keep_review(set_id, "1", {"format": "set-review/1", "findings": []}, {"off": 0})
        library.close()
        self.did(None, self.expected)

    def plan(self, window: Window, name: str, reps: int) -> None:
        library = window.app.library.library
        before = plan_of_client(library, name)
        day = date(2031, 3, 1 + reps)
        after = before.with_session(PlannedSession(day, (PlannedLine(CURL, "locked-upper-arm"),)))

        def task(to: Plan, since: Plan) -> Task[Any]:
            def work(opened: Library, _progress: Any) -> str:
                return keep_plan(opened, name, to, since).words

            return Task(Job("", OnLibrary(work)), lambda _told: None)

        self._step(window, task(after, before), lambda: task(before, after))

    def correct(self, window: Window, set_id: int, name: str, load: float | None) -> None:
        known = details_of(window.app.library.library.record(set_id))
        after = fields_of(replace(known, client=name, load_kg=load))
        window.app.set_changes.change(set_id, fields_of(known), after)
        self.did(window)

    def erase_set(self, window: Window, set_id: int) -> None:
        want = without_set(self.expected, set_id)
        self.journal("erase a set", want)
        window.app.set_changes.erase(set_id, self.client_of(set_id))
        self.did(window, want)

    def erase_client(self, window: Window, name: str) -> None:
        want = without_client(self.expected, self.client_id(name))
        self.journal("erase a client", want)
        window.clients.choose(name)
        window.clients.changes.erase(name)
        self.did(window, want)

    def make_client(self, window: Window, name: str) -> None:
        window.clients.changes.keep(Client(name), None)
        self.did(window)

    def know(self, window: Window, name: str, goals: str) -> None:
        window.clients.choose(name)
        window.clients.refresh()
        sheet = window.clients.doc.sheet
        assert sheet is not None
        window.clients.keep(replace(sheet.client, goals=goals))
        self.did(window)

    def join(self, window: Window, name: str, into: str) -> None:
        gone, stays = self.client_id(name), self.client_id(into)
        window.clients.choose(name)
        window.clients.changes.join(name, into)
        self.did(window)
        assert ("client", (gone,)) not in self.expected
        assert not any(r.get("client_id") == gone for r in self.expected.values())
        assert ("client", (stays,)) in self.expected

    def say_words(self, window: Window, name: str, words: str) -> None:
        """Words of a client's own for a cue, as the clients' place keeps them."""
        window.app.start(
            Job("", on_library(client_jobs.keep_words, name, "torso-swing", words)),
            lambda changes: window.clients.changes.did(changes, "words", name),
        )
        self.did(window)

    def follow_up(self, window: Window, set_id: int) -> None:
        self.moment += timedelta(minutes=1)
        name = self.client_of(set_id)
        window.follow_ups.add(name, "look at the elbow", date(2031, 4, 1), set_id, ToReview())
        self.did(window)

    def split(self, window: Window, set_id: int) -> None:
        record = window.app.library.library.record(set_id)
        parts = (
            SetPart(CURL, "locked-upper-arm", Correction("bounds", 0.0, to_s=0.05)),
            SetPart(ROW, "to-the-waist", Correction("bounds", 0.05, to_s=0.1)),
        )
        window.app.set_changes.split(record, parts, lambda _ids: None)
        self.did(window)

    def second_view(self, window: Window, other: int, main: int) -> None:
        joined = self.expected["recorded_set", (other,)]["other_view_of"] is None
        window.app.set_changes.join_views(other, main, joined=joined)
        self.did(window)

    def command_line_adds(self, name: str) -> None:
        library = Library.open(self.folder)
        library.add_set(
            self.track_bytes(), "cli.csv", client=name, standard=ROW, school="to-the-waist"
        )
        library.close()
        self.did(None)

    def command_line_erases(self, set_id: int) -> None:
        from guide_arc.library.taking_out import remove_set

        want = without_set(self.expected, set_id)
        self.journal("erase a set by a command", want)
        library = Library.open(self.folder)
        remove_set(library, set_id)
        library.close()
        self._gone_for_good({set_id}, want)
        self.did(None, want)

    def reopen(self, which: int) -> None:
        """Close a window and open it again: what it erased is gone for good, and nothing else."""
        window = self.windows[which]
        window.close()
        gone = {s for s in window.held_sets if ("recorded_set", (s,)) not in self.expected}
        self._gone_for_good(gone, self.expected)
        self.windows[which] = Window(self.folder)
        self.did(None, self.expected)

    def close_all(self) -> None:
        for window in self.windows:
            window.close()
        self.windows = []
        self.check()

    # Copies

    def copy(self) -> None:
        self._day += timedelta(days=1)
        made = backups.daily(self.folder, self._day)
        if made is not None:
            self.copies[made] = self.expected
        self.copies = {path: rows for path, rows in self.copies.items() if path.exists()}

    def _gone_for_good(self, sets: set[int], now: Rows) -> None:
        people = {k for k in now if k[0] == "client"}
        names = {now[k]["name"] for k in people}
        for path, rows in self.copies.items():
            # Of a client who is not in the library now, copies may lose every set: they may be the
            # one who was erased.
            self.doubtful.setdefault(path, set()).update(
                key[1][0]
                for key, row in rows.items()
                if key[0] == "recorded_set"
                and rows["client", (row["client_id"],)]["name"] not in names
            )
            out = rows
            for set_id in sets:
                if ("recorded_set", (set_id,)) in out:
                    out = without_set(out, set_id, with_client=False)
            self.copies[path] = {
                k: r
                for k, r in out.items()
                if k[0] != "client"
                or k in people
                or any(x.get("client_id") == k[1][0] for x in out.values())
            }

    def restore(self, window: Window, path: Path) -> None:
        """Bring a copy back: every set that was not erased for good since is there again, with its
        recording."""
        window.app.library.bring_back(path)
        assert not window.app.broken, window.app.broken
        actual = rows_in(self.folder)
        for key, row in self.copies[path].items():
            set_id = row.get("set_id", key[1][0])
            if key[0] in ("recorded_set", "decision") and set_id not in self.doubtful.get(path, ()):
                back, was = dict(actual.get(key, {})), dict(row)
                if ("client", (was.get("client_id"),)) not in actual:
                    # Their name was erased since, when nothing of theirs was left: the set has
                    # another owner now.
                    back.pop("client_id", None)
                    was.pop("client_id", None)
                assert back == was, f"{key} came back as {back}, was {was}"
        window.past.clear()
        window.future.clear()
        # A set that came after the copy is not listed any more; its recording stays in the folder.
        self.unlisted |= {k[1][0] for k in self.expected if k[0] in ("track", "clip")}
        self.ever |= {(k[0], k[1][0]) for k in actual if k[0] in ("client", "recorded_set")}
        self.expected = actual
        self.check()
